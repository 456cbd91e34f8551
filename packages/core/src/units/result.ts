/** A likely reading of what was typed, to be taken over by one action. */
export interface Offer {
  /** What the action says, for example `Use 10.20.40.22`. */
  readonly label: string
  /** The text that takes the place of what was typed. */
  readonly value: string
}

/** Why something that a person typed, a file held or a device sent cannot be used. Never an exception. */
export interface Refusal {
  /** Stable id, for example `ipv4.octet-too-large`. */
  readonly code: string
  /** One plain sentence. */
  readonly what: string
  readonly found: string
  readonly expected: string
  readonly offers: readonly Offer[]
}

/** The outcome of reading what people or devices give. */
export type Result<T, R = Refusal> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly refusal: R }

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value })

export const refuse = <R>(refusal: R): { readonly ok: false; readonly refusal: R } => ({ ok: false, refusal })

/** Builds a refusal; `offers` may be left out. */
export function refusal(code: string, what: string, found: string, expected: string, offers: readonly Offer[] = []) {
  return refuse<Refusal>({ code, what, found, expected, offers })
}
