import type { Offer } from '@calm/core/units'

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
    <div className="refusal" id={id} role="alert">
      <span>{refusal.what}</span>
      {refusal.expected !== '' && <span className="expected">Expected: {refusal.expected}.</span>}
      {refusal.offers?.map((offer) => (
        <button
          key={offer.value}
          type="button"
          className="quiet"
          // Keeps the field's focus, so that leaving it does not save what was refused.
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onOffer(offer.value)}
        >
          {offer.label}
        </button>
      ))}
    </div>
  )
}
