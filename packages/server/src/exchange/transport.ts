/** What a channel tells whoever uses it. */
export interface TransportEvents {
  readonly opened: () => void
  readonly bytes: (bytes: Uint8Array) => void
  /** It could not be opened; why, in a sentence. Nothing comes after it. */
  readonly failed: (reason: string) => void
  /** It is closed, by whomever. Nothing comes after it. */
  readonly closed: () => void
}

/** A channel of bytes to whatever answers there. It knows nothing of what is said over it. */
export interface Transport {
  readonly send: (bytes: Uint8Array) => void
  readonly close: () => void
}

/** Opens a channel. It says by `opened` or `failed` what came of that, unless it is closed before. */
export type OpenTransport = (events: TransportEvents) => Transport
