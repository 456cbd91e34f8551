import { deviceFields, type Device, type Job, type Port } from '../job'
import { ok, type Result } from '../units'
import { orBlank, readCount, readText } from './cells'

/** What a cell says of a device: fields of its row, fields of its first port, or its nodes. */
export interface CellEdit {
  readonly device?: Partial<Omit<Device, 'id' | 'version' | 'ports' | 'nodes'>>
  readonly port?: Partial<Omit<Port, 'id' | 'version'>>
  readonly nodes?: readonly { readonly lineId: string; readonly node: number | null }[]
}

/** One column of the device table: shown, typed, pasted, read from a file and written to one. */
export interface DeviceColumn {
  readonly id: DeviceColumnId
  readonly name: string
  /** Heads under which it is found in a spreadsheet, in small letters without spaces and marks. */
  readonly heads: readonly string[]
  /** Set in the typed face: addresses, numbers, codes. */
  readonly typed: boolean
  readonly text: (device: Device, job: Job) => string
  /** @param device `undefined` for a row that becomes a new device */
  readonly read: (text: string, job: Job, device: Device | undefined) => Result<CellEdit>
  /** What can stand there, where that is a list. */
  readonly choices?: (job: Job) => readonly string[]
}

/** Texts of a device, each a column of its own where its definition names heads for it. */
type TextField = {
  [K in keyof Device]: Device[K] extends string ? (string extends Device[K] ? K : never) : never
}[keyof Device]

/** Whole numbers of a device, each a column of its own where its definition names heads for it. */
type CountField = { [K in keyof Device]: number | null extends Device[K] ? K : never }[keyof Device]

export type DeviceColumnId =
  | Exclude<TextField, 'id' | 'kind'>
  | Exclude<CountField, 'unitId' | 'startUpSeconds' | 'handsOnSeconds'>
  | 'kind'
  | 'behind'
  | 'network'
  | 'address'
  | 'mask'
  | 'gateway'
  | 'tcpPort'
  | 'mac'
  | 'school'
  | 'unitId'
  | 'nodes'
  | 'setting'
  | 'effective'
  | 'startUp'
  | 'handsOn'

/** A column that is one text of the device, from the definition of the field. */
export function textColumn(id: TextField & DeviceColumnId): DeviceColumn {
  const { name, heads = [], typed = false, type } = deviceFields[id]
  return {
    id,
    name: name.charAt(0).toUpperCase() + name.slice(1),
    heads,
    typed,
    text: (device) => device[id],
    read: (text) =>
      mapped(readText(text, type.is === 'text' ? type.most : 120), (value) => ({ device: { [id]: value } })),
  }
}

/** Texts that a table has, by their definitions. */
export const textsInTable = Object.entries(deviceFields).flatMap(([id, { type, heads }]) =>
  type.is === 'text' && !type.tag && heads ? [id as TextField & DeviceColumnId] : [],
)

/** A whole number of the device, from the definition of the field; blank leaves it open. */
export function countColumn(id: DeviceColumnId, field: CountField): DeviceColumn {
  const { name, unit, heads = [], type } = deviceFields[field]
  const { least, most } = type.is === 'whole' ? type : { least: 0, most: 0 }
  const title = name.charAt(0).toUpperCase() + name.slice(1)
  return {
    id,
    name: unit === undefined ? title : `${title}, ${unit}`,
    heads,
    typed: true,
    text: (device) => (device[field] === null ? '' : String(device[field])),
    read: (text) =>
      mapped(
        orBlank(text, (typed) => readCount(typed, unit === 's' ? 'Seconds' : title, least, most)),
        (value) => ({ device: { [field]: value } }),
      ),
  }
}

/** Whole numbers that a table has, by their definitions. Two have a column with a shorter id. */
export const countsInTable = Object.entries(deviceFields).flatMap(([id, { type, heads }]) =>
  type.is === 'whole' && heads && id !== 'startUpSeconds' && id !== 'handsOnSeconds'
    ? [id as CountField & DeviceColumnId]
    : [],
)

export const mapped = <T, R>(result: Result<T>, make: (value: T) => R): Result<R> =>
  result.ok ? ok(make(result.value)) : result

/** A column of the first port; a device without a port has a blank there. */
export function portColumn<T>(
  column: Pick<DeviceColumn, 'id' | 'name' | 'heads' | 'choices'>,
  text: (port: Port, job: Job) => string,
  read: (text: string, job: Job) => Result<T>,
  field: keyof Port,
): DeviceColumn {
  return {
    ...column,
    typed: column.id !== 'network' && column.id !== 'school',
    text: (device, job) => (device.ports[0] ? text(device.ports[0], job) : ''),
    read: (cell, job, device) => {
      if (device && device.ports.length === 0 && cell.trim() === '') return ok({})
      return mapped(read(cell, job), (value) => ({ port: { [field]: value } }))
    },
  }
}

/** Entries of a record of facts as a list to choose from. */
export const named = <K extends string>(record: Readonly<Record<K, { readonly name: string }>>) =>
  (Object.keys(record) as K[]).map((id) => [id, record[id].name] as const)
