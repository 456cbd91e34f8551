import type { DeviceDescription } from './description'
import { parts, wholeOf, type Sections } from './sections'

/** Places of the fields of a connection entry, counted from 0. From memory. */
const FIELD = {
  interval: 2,
  toDevice: 3,
  toDeviceFormat: 4,
  back: 6,
  fromDeviceFormat: 7,
  config: 8,
  configFormat: 9,
} as const

/** What an EDS of a CIP device says: identity, revision, the sizes and the interval of its first connection. */
export function readCip({ sections, remarks }: Sections): DeviceDescription {
  const value = (section: string, name: string) => sections.get(section)?.entries.get(name)?.value
  const plain = (section: string, name: string) => value(section, name)?.replace(/^"|"$/g, '').trim()
  const connection = [...(sections.get('connection manager')?.entries.values() ?? [])].find(({ name }) =>
    /^connection\d+$/i.test(name),
  )
  const fields = connection ? parts(connection.value) : []
  /** A size stands there as a number or as a parameter; where it is blank the assembly that is named says it. */
  const sizeOf = (field: number, format: number): number | undefined =>
    numberOf(fields[field]) ?? wholeOf(parts(value('assembly', fields[format]?.toLowerCase() ?? '') ?? '')[2])
  const numberOf = (field: string | undefined): number | undefined => {
    if (field === undefined || field === '') return undefined
    const known = /^param\d+$/i.test(field) ? parts(value('params', field.toLowerCase()) ?? '') : undefined
    // A parameter has its least, most and usual value behind its names.
    return known ? wholeOf(known[11]) : wholeOf(field)
  }
  const [major, minor] = [plain('device', 'majrev'), plain('device', 'minrev')]
  const interval = numberOf(fields[FIELD.interval])
  return {
    format: 'cip',
    vendor: plain('device', 'vendname') ?? '',
    product: plain('device', 'prodname') ?? '',
    orderCode: plain('device', 'catalog'),
    identity:
      plain('device', 'prodcode') &&
      `vendor ${plain('device', 'vendcode')}, type ${plain('device', 'prodtype')}, product ${plain('device', 'prodcode')}`,
    revision: major === undefined ? undefined : `${major}.${minor ?? '0'}`,
    fileRevision: plain('file', 'revision'),
    node: undefined,
    nodes: undefined,
    rates: [],
    inputBytes: sizeOf(FIELD.back, FIELD.fromDeviceFormat),
    outputBytes: sizeOf(FIELD.toDevice, FIELD.toDeviceFormat),
    configBytes: sizeOf(FIELD.config, FIELD.configFormat),
    isModular: sections.has('modular'),
    mostModules: undefined,
    modules: [],
    // Intervals stand there in microseconds.
    fastestMs: interval === undefined ? undefined : interval / 1000,
    remarks,
  }
}
