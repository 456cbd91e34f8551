import { cva, type VariantProps } from 'class-variance-authority'
import { X } from 'lucide-react'
import { Dialog as Radix } from 'radix-ui'
import { Button } from './button'

const sheet = cva(
  'fixed left-1/2 z-21 -translate-x-1/2 overflow-auto rounded-sm border-2 border-ink bg-sheet px-6 pt-5 pb-6',
  {
    variants: {
      room: {
        form: 'top-[12vh] max-h-[76vh] w-[min(560px,calc(100vw-32px))]',
        /** For a table. */
        wide: 'top-[8vh] max-h-[84vh] w-[min(880px,calc(100vw-32px))]',
        /** For a sheet that was pasted. */
        widest: 'top-[6vh] max-h-[88vh] w-[min(980px,calc(100vw-32px))]',
      },
    },
    defaultVariants: { room: 'form' },
  },
)

interface DialogProps extends VariantProps<typeof sheet> {
  readonly title: string
  readonly say?: string
  readonly open: boolean
  readonly onClose: () => void
  readonly children: React.ReactNode
}

/** Who opens a form types at once; without a field the way out has the focus. */
function toFirstField(event: Event): void {
  const sheetNode = event.target instanceof HTMLElement ? event.target : undefined
  const first = sheetNode?.querySelector<HTMLElement>(
    'input:not([type=file], [type=hidden]), textarea, [role=combobox]',
  )
  if (!first) return
  event.preventDefault()
  first.focus()
}

/** A sheet above the page, with focus kept inside; Escape closes it. */
export function Dialog({ title, say, open, onClose, room, children }: DialogProps) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-20 bg-ground/72" />
        <Radix.Content
          className={sheet({ room })}
          onOpenAutoFocus={toFirstField}
          {...(say === undefined && { 'aria-describedby': undefined })}
        >
          <div className="flex items-start gap-4">
            <Radix.Title asChild>
              <h1 className="flex-1 whitespace-normal">{title}</h1>
            </Radix.Title>
            <Radix.Close asChild>
              <Button look="icon" aria-label="Close">
                <X size={18} />
              </Button>
            </Radix.Close>
          </div>
          {say !== undefined && <Radix.Description className="text-note text-ink-soft">{say}</Radix.Description>}
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
