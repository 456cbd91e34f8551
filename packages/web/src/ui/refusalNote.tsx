import type { Offer } from '@calm/core/units'
import { Button } from './button'

interface Shown {
  readonly what: string
  readonly expected: string
  readonly offers?: readonly Offer[]
}

/** Why something typed cannot be used, what is expected, and the likely reading as one action. */
export function RefusalNote({
  id,
  refusal,
  onOffer,
}: {
  id: string
  refusal: Shown
  onOffer: (value: string) => void
}) {
  return (
    <div
      className="mt-1 grid justify-items-start gap-1 text-note leading-snug text-odds in-data-say:mt-0"
      id={id}
      role="alert"
    >
      <span>{refusal.what}</span>
      {refusal.expected !== '' && !refusal.what.includes(refusal.expected) && (
        <span className="text-ink-soft">Expected: {refusal.expected}.</span>
      )}
      {refusal.offers?.map((offer) => (
        <Button
          key={offer.value}
          // Keeps the field's focus, so that leaving it does not save what was refused.
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onOffer(offer.value)}
        >
          {offer.label}
        </Button>
      ))}
    </div>
  )
}
