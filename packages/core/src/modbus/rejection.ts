/** Why bytes that arrived are not the answer to the request that was sent. */
export type RejectionReason =
  | 'empty'
  | 'too-short'
  | 'too-long'
  | 'wrong-length'
  | 'wrong-unit'
  | 'wrong-function'
  | 'wrong-byte-count'
  | 'wrong-padding'
  | 'wrong-echo'
  | 'wrong-transaction'
  | 'wrong-protocol'
  | 'wrong-checksum'
  | 'wrong-characters'
  | 'wrong-object'
  | 'broadcast'

/** A typed refusal of an answer: it is never shown as a value. */
export interface Rejection {
  readonly reason: RejectionReason
  /** One plain sentence. */
  readonly what: string
  readonly found: string
  readonly expected: string
}

export const reject = (reason: RejectionReason, what: string, found: string | number, expected: string | number) =>
  ({
    ok: false,
    refusal: { reason, what, found: String(found), expected: String(expected) } satisfies Rejection,
  }) as const
