import type { ByteOrder } from './byteOrder'
import type { DataType } from './dataType'

/** A value as its type holds it, before scaling. 64-bit whole numbers stay exact. */
export type RawValue =
  | { readonly kind: 'number'; readonly value: number }
  | { readonly kind: 'whole'; readonly value: bigint }
  | { readonly kind: 'bool'; readonly value: boolean }
  | { readonly kind: 'bits'; readonly value: readonly boolean[] }
  | { readonly kind: 'text'; readonly value: string }

/** How words carry a value. */
export interface ValueFormat {
  readonly type: DataType
  readonly order: ByteOrder
  /** For `bool`: the bit of the register, 0 the lowest. */
  readonly bit?: number | undefined
  /** For `ascii`: how many registers. */
  readonly registers?: number | undefined
}
