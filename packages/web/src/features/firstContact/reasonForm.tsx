import type { RunStep } from '@calm/core/procedure'
import { useEffect, useRef, useState } from 'react'

interface ReasonFormProps {
  readonly title: string
  /** What it may be, the likeliest first, with the check that tells. */
  readonly offers?: NonNullable<RunStep['otherwise']>
  readonly action: string
  readonly onSay: (text: string) => void
  readonly onClose: () => void
}

/** Asks for a reason, or for what was seen instead. */
export function ReasonForm({ title, offers, action, onSay, onClose }: ReasonFormProps) {
  const [text, setText] = useState('')
  const field = useRef<HTMLInputElement>(null)
  // Who asked for it types at once.
  useEffect(() => field.current?.focus(), [])
  return (
    <form
      className="reason"
      onSubmit={(event) => {
        event.preventDefault()
        onSay(text)
      }}
    >
      <h3>{title}</h3>
      {offers && offers.length > 0 && (
        <ol className="otherwise">
          {offers.map((offer) => (
            <li key={offer.saw}>
              <button type="button" className="quiet" onClick={() => setText(`${offer.saw}: ${offer.likely}`)}>
                {offer.saw}
              </button>
              <span>
                {offer.likely} <span className="note">{offer.check}</span>
              </span>
            </li>
          ))}
        </ol>
      )}
      <label className="field">
        <span>In words</span>
        <input ref={field} className="input" value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <div className="step-acts">
        <button type="submit" className="act" disabled={text.trim().length < 3}>
          {action}
        </button>
        <button type="button" className="plain" onClick={onClose}>
          Leave it
        </button>
      </div>
    </form>
  )
}
