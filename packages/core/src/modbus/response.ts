import type { ProtocolAddress } from './address'

/** One object of a device's identification. Text is kept byte for byte as Latin-1. */
export interface IdentificationObject {
  readonly id: number
  readonly text: string
}

/** What a device can answer. An exception is an answer too, never a value. */
export type ModbusResponse =
  | { readonly kind: 'bits'; readonly code: 1 | 2; readonly bits: readonly boolean[] }
  | { readonly kind: 'words'; readonly code: 3 | 4 | 23; readonly words: readonly number[] }
  | {
      readonly kind: 'written'
      readonly code: 5 | 6 | 15 | 16 | 22
      readonly address: ProtocolAddress
      readonly count: number
    }
  | {
      readonly kind: 'identity'
      readonly code: 43
      /** Highest category the device offers, and whether it answers for single objects: `0x01` to `0x83`. */
      readonly conformity: number
      readonly moreFrom: number | undefined
      readonly objects: readonly IdentificationObject[]
    }
  | { readonly kind: 'exception'; readonly functionCode: number; readonly exception: number }

/** Names of the identification objects that the standard fixes. @source V1.1b3, 6.21, table of objects */
export const identificationNames: Readonly<Record<number, string>> = {
  0: 'vendor name',
  1: 'product code',
  2: 'revision',
  3: 'vendor address',
  4: 'product name',
  5: 'model name',
  6: 'application name',
}
