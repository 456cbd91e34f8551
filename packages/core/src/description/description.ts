import type { Refusal } from '../units'

/** The open text formats in which makers describe a device. */
export type DescriptionFormat = 'cip' | 'can' | 'type-3'

export const descriptionFormats: Readonly<
  Record<DescriptionFormat, { readonly name: string; readonly source: string }>
> = {
  cip: { name: 'EDS of a CIP device', source: 'IEC 61158 type 2; keywords of electronic data sheets from memory' },
  can: { name: 'EDS or DCF by CiA 306', source: 'CiA 306-1; objects 1600h to 1BFFh: CiA 301, from memory' },
  'type-3': { name: 'GSD', source: 'IEC 61784 type 3; keywords and identifier bytes from memory' },
}

/** A module that can be plugged into the device, with what it adds to the image, in bytes. */
export interface DescribedModule {
  readonly name: string
  readonly inputBytes: number
  readonly outputBytes: number
  readonly line: number
}

/** Something in a file that does not stop it from being read. */
export interface DescriptionRemark {
  readonly line: number
  readonly what: string
}

/** What a description file says of a device, as far as terms and limits follow from it. What it does not say is left out. */
export interface DeviceDescription {
  readonly format: DescriptionFormat
  readonly vendor: string
  readonly product: string
  readonly orderCode: string | undefined
  /** The identity as numbers, for example `product code 1204`. */
  readonly identity: string | undefined
  /** Revision of the device that the file is made for. */
  readonly revision: string | undefined
  /** Revision of the file itself. */
  readonly fileRevision: string | undefined
  /** Node that a commissioned file gives to the device. */
  readonly node: number | undefined
  readonly nodes: readonly [first: number, last: number] | undefined
  /** Bit rates that it takes, in bit/s; empty where the file does not say. */
  readonly rates: readonly number[]
  /** Bytes to the controller, and from it. At a modular device the most that it carries. */
  readonly inputBytes: number | undefined
  readonly outputBytes: number | undefined
  readonly configBytes: number | undefined
  readonly isModular: boolean
  /** How many modules may be plugged. */
  readonly mostModules: number | undefined
  readonly modules: readonly DescribedModule[]
  /** Shortest update interval, in ms. */
  readonly fastestMs: number | undefined
  readonly remarks: readonly DescriptionRemark[]
}

/** A reason with its line, counted from 1. */
export interface DescriptionProblem extends Refusal {
  readonly line: number
}
