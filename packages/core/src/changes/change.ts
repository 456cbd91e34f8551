import type { RowTable } from '../job'

export type RowFields = Readonly<Record<string, unknown>>

/**
 * One change of one row. Several travel together and are carried out together or not at all. Who adds a row chooses its
 * id; a row that lies in another names it: a port its device in `deviceId`, a term its handshake in `handshakeId`.
 */
export type Change =
  | {
      readonly op: 'set'
      readonly table: RowTable
      readonly id: string
      readonly version: number
      readonly fields: RowFields
    }
  | { readonly op: 'add'; readonly table: RowTable; readonly id: string; readonly fields: RowFields }
  | { readonly op: 'remove'; readonly table: RowTable; readonly id: string; readonly version: number }
  | { readonly op: 'restore'; readonly table: RowTable; readonly id: string }

/** A new row. */
export type AddChange = Extract<Change, { op: 'add' }>

/** Who changes, and when: written into rows that say it. */
export interface Stamp {
  readonly who: string
  readonly at: number
}
