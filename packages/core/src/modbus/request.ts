import type { ProtocolAddress } from './address'

/** The three identification categories that are streamed, and one object alone. @source V1.1b3, 6.21 */
export type IdentificationCategory = 'basic' | 'regular' | 'extended' | 'one-object'

/** What can be asked. Registers are unsigned 16-bit words. */
export type ModbusRequest =
  | { readonly code: 1 | 2; readonly address: ProtocolAddress; readonly count: number }
  | { readonly code: 3 | 4; readonly address: ProtocolAddress; readonly count: number }
  | { readonly code: 5; readonly address: ProtocolAddress; readonly value: boolean }
  | { readonly code: 6; readonly address: ProtocolAddress; readonly value: number }
  | { readonly code: 15; readonly address: ProtocolAddress; readonly values: readonly boolean[] }
  | { readonly code: 16; readonly address: ProtocolAddress; readonly values: readonly number[] }
  | { readonly code: 22; readonly address: ProtocolAddress; readonly andMask: number; readonly orMask: number }
  | {
      readonly code: 23
      readonly address: ProtocolAddress
      readonly count: number
      readonly writeAddress: ProtocolAddress
      readonly values: readonly number[]
    }
  | { readonly code: 43; readonly category: IdentificationCategory; readonly object: number }

export const identificationCodes: Readonly<Record<IdentificationCategory, number>> = {
  basic: 1,
  regular: 2,
  extended: 3,
  'one-object': 4,
}

/** The sub-function of FC 43 for device identification. @source V1.1b3, 6.21 */
export const MEI_DEVICE_IDENTIFICATION = 14
