import type { Table } from '../modbus'

/** One value that has to be read. */
export interface Wanted {
  readonly id: string
  readonly table: Table
  /** Address in the frame of its first register (or bit). */
  readonly address: number
  /** Registers that it takes; bits, in a table of bits. */
  readonly size: number
  /** How often it is wanted, in ms. */
  readonly pollMs: number
  /** The device gives it only in a request of its own. */
  readonly isAlone?: boolean | undefined
  /** It can only be written. */
  readonly isWriteOnly?: boolean | undefined
}

/** Addresses that no request may touch, both ends included. */
export interface Forbidden {
  readonly table: Table
  readonly first: number
  readonly last: number
}

/** What a request costs, in any one unit: milliseconds on a line, or packets. */
export interface RequestCost {
  readonly perRequest: number
  /** For sixteen bits. */
  readonly perRegister: number
}

/** What a device takes, and what its line costs. */
export interface PackingRules {
  /** Registers in one request; the standard's own limit where the device names none. */
  readonly mostRegisters: number
  readonly mostBits: number
  readonly forbidden: readonly Forbidden[]
  readonly cost: RequestCost
}

/** One read, and what it carries. */
export interface PackedRequest {
  readonly table: Table
  readonly first: number
  readonly count: number
  readonly pollMs: number
  readonly carries: readonly string[]
}

export interface Packing {
  readonly requests: readonly PackedRequest[]
  /** Values that no request can ever bring, with the reason. */
  readonly never: readonly { readonly id: string; readonly why: string }[]
  /** Cost of one round of every request, by the second: one value at a time, and packed. */
  readonly before: number
  readonly after: number
  /** Whether nothing costs less. Not where several rates lie so close together that it was packed rate by rate. */
  readonly isCheapest: boolean
}
