import { cva } from 'class-variance-authority'

/** What a field that is typed into looks like: a white well; a thick burnt edge when it is refused. */
export const input = cva(
  'w-full rounded-sm border border-rule-strong bg-well px-2.25 text-ink aria-invalid:border-2 aria-invalid:border-odds-mark',
  {
    variants: {
      /** Typed into, or read off, a device. */
      typed: { true: 'font-typed text-body font-medium', false: 'text-row' },
      size: { row: 'h-9', small: 'h-7.5 px-1', tall: 'h-11 text-lead' },
      /** Many lines. */
      area: { true: 'h-auto resize-y px-2.5 py-2' },
    },
    defaultVariants: { typed: false, size: 'row' },
  },
)

/** The words over a field. */
export const fieldLabel = 'mb-0.75 block text-note text-ink-soft'

/** Two fields beside each other. */
export const formGrid = 'my-3.5 grid grid-cols-2 gap-x-4 gap-y-3 max-phone:grid-cols-1'
/** The actions at the foot of a form. */
export const formActions = 'flex flex-wrap items-center gap-3'
