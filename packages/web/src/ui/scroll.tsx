import { getNonce } from 'get-nonce'
import { ScrollArea } from 'radix-ui'
import { cn } from './cn'

interface ScrollProps {
  /** What is in it, spoken when the keys come to it: Up, Down and the page keys then scroll it. */
  readonly label: string
  readonly className?: string
  readonly children: React.ReactNode
}

/** A part of the page that scrolls by itself, in both directions. */
export function Scroll({ label, className, children }: ScrollProps) {
  return (
    <ScrollArea.Root className={cn('relative overflow-hidden', className)} type="auto">
      <ScrollArea.Viewport
        nonce={getNonce() ?? ''}
        className="max-h-[inherit] w-full"
        role="region"
        aria-label={label}
        tabIndex={0}
      >
        {children}
      </ScrollArea.Viewport>
      {(['vertical', 'horizontal'] as const).map((orientation) => (
        <ScrollArea.Scrollbar
          key={orientation}
          orientation={orientation}
          className="flex touch-none p-0.5 data-[orientation=horizontal]:h-2.5 data-[orientation=vertical]:w-2.5"
        >
          <ScrollArea.Thumb className="flex-1 rounded-sm bg-ink-faint" />
        </ScrollArea.Scrollbar>
      ))}
    </ScrollArea.Root>
  )
}
