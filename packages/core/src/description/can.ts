import type { DeviceDescription } from './description'
import { wholeOf, type Sections } from './sections'

/** Bit rates by the keyword that says them, in kbit/s. @source CiA 306-1, [DeviceInfo] */
const RATES = [10, 20, 50, 125, 250, 500, 800, 1000] as const

/** Mapping objects: what the device receives, and what it sends. @source CiA 301, from memory */
const RECEIVED = { first: 0x1600, last: 0x17ff } as const
const SENT = { first: 0x1a00, last: 0x1bff } as const

/** What an EDS or DCF by CiA 306 says: identity, revision, node and bit rates, and what its mappings carry. */
export function readCan({ sections, remarks }: Sections): DeviceDescription {
  const value = (section: string, name: string) => sections.get(section)?.entries.get(name)?.value
  const mapped = (range: typeof RECEIVED | typeof SENT): number | undefined => {
    let bits: number | undefined
    for (const [name, { entries }] of sections) {
      const found = /^([0-9a-f]{4})sub([0-9a-f]{1,2})$/i.exec(name)
      const object = found ? parseInt(found[1] ?? '', 16) : 0
      if (!found || object < range.first || object > range.last || parseInt(found[2] ?? '', 16) === 0) continue
      // Object, sub-index and length in bits: 60000108h is 8 bits of object 6000h.
      const entry = wholeOf((entries.get('parametervalue') ?? entries.get('defaultvalue'))?.value)
      if (entry !== undefined && entry > 0) bits = (bits ?? 0) + (entry & 0xff)
    }
    return bits === undefined ? undefined : Math.ceil(bits / 8)
  }
  const node = wholeOf(value('devicecomissioning', 'nodeid') ?? value('devicecommissioning', 'nodeid'))
  const rate = wholeOf(value('devicecomissioning', 'baudrate') ?? value('devicecommissioning', 'baudrate'))
  const listed = RATES.filter((each) => value('deviceinfo', `baudrate_${each}`)?.trim() === '1').map(
    (each) => each * 1000,
  )
  return {
    format: 'can',
    vendor: value('deviceinfo', 'vendorname') ?? '',
    product: value('deviceinfo', 'productname') ?? '',
    orderCode: value('deviceinfo', 'ordercode') || undefined,
    identity:
      value('deviceinfo', 'productnumber') &&
      `vendor ${value('deviceinfo', 'vendornumber')}, product ${value('deviceinfo', 'productnumber')}`,
    revision: revisionText(value('deviceinfo', 'revisionnumber')),
    fileRevision:
      [value('fileinfo', 'fileversion'), value('fileinfo', 'filerevision')].filter(Boolean).join('.') || undefined,
    node,
    nodes: [1, 127],
    rates: rate === undefined ? listed : [rate * 1000],
    inputBytes: mapped(SENT),
    outputBytes: mapped(RECEIVED),
    configBytes: undefined,
    isModular: false,
    mostModules: undefined,
    modules: [],
    fastestMs: undefined,
    remarks,
  }
}

/** Two halves of 16 bits: 00010003h is 1.3. @source CiA 301, object 1018h */
function revisionText(text: string | undefined): string | undefined {
  const value = wholeOf(text)
  return value === undefined ? text || undefined : value > 0xffff ? `${value >>> 16}.${value & 0xffff}` : String(value)
}
