import { X } from 'lucide-react'
import { Dialog as Radix } from 'radix-ui'

interface DialogProps {
  readonly title: string
  readonly say?: string
  readonly open: boolean
  readonly onClose: () => void
  /** Room for a table. */
  readonly wide?: boolean
  readonly children: React.ReactNode
}

/** A sheet above the page, with focus kept inside; Escape closes it. */
export function Dialog({ title, say, open, onClose, wide = false, children }: DialogProps) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="veil" />
        <Radix.Content
          className={`dialog ${wide ? 'wide' : ''}`}
          {...(say === undefined && { 'aria-describedby': undefined })}
        >
          <div className="flex items-start gap-4">
            <Radix.Title asChild>
              <h1 className="flex-1">{title}</h1>
            </Radix.Title>
            <Radix.Close className="icon-button" aria-label="Close">
              <X size={18} />
            </Radix.Close>
          </div>
          {say !== undefined && <Radix.Description className="note">{say}</Radix.Description>}
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
