import type { Brand } from './brand'

/** A length of time in milliseconds. */
export type Milliseconds = Brand<number, 'Milliseconds'>

/** An instant: milliseconds since 1970-01-01T00:00Z. Core never reads a clock; instants are passed in. */
export type Instant = Brand<number, 'Instant'>

/** @throws RangeError for a length that is not a finite number of at least 0: that is a programmer's mistake */
export function milliseconds(value: number): Milliseconds {
  if (!Number.isFinite(value) || value < 0) throw new RangeError(`Not a length of time: ${value}`)
  return value as Milliseconds
}

/** @throws RangeError for anything but a finite number */
export function instant(value: number): Instant {
  if (!Number.isFinite(value)) throw new RangeError(`Not an instant: ${value}`)
  return value as Instant
}
