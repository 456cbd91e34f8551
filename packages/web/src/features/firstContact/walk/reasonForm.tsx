import { Button, Field } from '../../../ui'
import type { RunStep } from '@calm/core/procedure'
import { reasonGiven } from '@calm/contract/walk'
import { against, useSchemaForm } from '../../../forms'

interface ReasonFormProps {
  readonly title: string
  /** What it may be, the likeliest first, with the check that tells. */
  readonly offers?: NonNullable<RunStep['otherwise']>
  readonly action: string
  readonly onSay: (text: string) => void
  readonly onClose: () => void
}

const check = against<{ note: string }>(reasonGiven)

/** Asks for a reason, or for what was seen instead. */
export function ReasonForm({ title, offers, action, onSay, onClose }: ReasonFormProps) {
  const form = useSchemaForm({ start: { note: '' }, check, send: ({ note }) => Promise.resolve(onSay(note)) })
  return (
    <form className="grid gap-2.5 rounded-sm bg-ground px-3.5 py-3" onSubmit={form.onSubmit} noValidate>
      <h3>{title}</h3>
      {offers && offers.length > 0 && (
        <ol className="grid gap-2">
          {offers.map((offer) => (
            <li
              className="grid grid-cols-[minmax(170px,auto)_1fr] items-center gap-3 max-phone:grid-cols-1"
              key={offer.saw}
            >
              <Button
                className="text-left whitespace-normal"
                onClick={() => form.set({ note: `${offer.saw}: ${offer.likely}` })}
              >
                {offer.saw}
              </Button>
              <span>
                {offer.likely} <span className="note">{offer.check}</span>
              </span>
            </li>
          ))}
        </ol>
      )}
      <Field label="In words" autoFocus {...form.bind('note')} />
      <div className="flex flex-wrap items-center gap-2.5">
        <Button type="submit" look="act">
          {action}
        </Button>
        <Button look="plain" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </form>
  )
}
