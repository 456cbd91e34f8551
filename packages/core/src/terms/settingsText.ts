import type { Refusal } from '../units'
import type { ClaspRow } from './clasp'
import { termDefinition } from './catalogue'
import type { End, HandshakeTerms, TermId } from './term'

/** One line of a text that names a term and its value. */
export interface TextSetting {
  readonly row: ClaspRow
  /** Counted from 1. */
  readonly line: number
  readonly text: string
  /** Why the value cannot be read as this term; left out where it can. */
  readonly refusal?: Refusal
}

/** What a text says of the terms of one end, and the lines that nobody could place. */
export interface SettingsText {
  readonly found: readonly TextSetting[]
  readonly unplaced: readonly { readonly line: number; readonly text: string }[]
}

/** Other names under which menus, pages and exports show a term; in small letters, without spaces and marks. */
const otherNames: Readonly<Partial<Record<TermId, readonly string[]>>> = {
  address: ['ip', 'ipaddress', 'ipaddr', 'systemip'],
  mask: ['netmask', 'mask', 'subnet'],
  gateway: ['gateway', 'defaultgateway', 'router'],
  port: ['port', 'modbusport'],
  'unit-id': ['unit', 'slaveid', 'slaveaddress', 'deviceid', 'stationnumber', 'number'],
  node: ['nodeid', 'stationaddress', 'macid'],
  'line-settings': ['line', 'serial', 'serialline', 'settingsoftheline'],
  firmware: ['version', 'fw', 'firmwareversion', 'revision'],
  'order-code': ['model', 'part', 'partnumber', 'article'],
  'serial-number': ['serialno', 'sn', 'serialnumber'],
  name: ['hostname', 'systemname', 'devicename'],
  'update-interval': ['rpi', 'interval', 'cycletime'],
  'bus-rate': ['baudrate', 'bitrate', 'baud'],
  timeout: ['responsetimeout'],
}

const bare = (text: string) => text.toLowerCase().replace(/[^a-z0-9]+/g, '')

/** `name: value`, `name = value`, `name<Tab>value`, or a name with points behind it; a number of a menu may stand before. */
const LINE = /^\s*(?:\d+[.)]\s+)?(.+?)\s*(?:[:=\t]|\.{3,})\s*(.+?)\s*$/

/**
 * Reads what a menu, a page or an export shows, line by line, as settings of one end: each line that names a term is
 * taken as that term's value. Of a term that is named twice the first line counts, the other is told as not placed.
 */
export function readSettingsText(
  text: string,
  rows: readonly ClaspRow[],
  end: End,
  terms: HandshakeTerms,
): SettingsText {
  const byName = new Map<string, ClaspRow>()
  for (const row of rows)
    for (const name of [bare(row.name), bare(row.id), ...(otherNames[row.id] ?? [])])
      if (!byName.has(name)) byName.set(name, row)
  const found = new Map<TermId, TextSetting>()
  const unplaced: { line: number; text: string }[] = []
  text.split(/\r\n|\r|\n/).forEach((raw, k) => {
    if (raw.trim() === '') return
    const [, name = '', value = ''] = LINE.exec(raw) ?? []
    const row = byName.get(bare(name))
    if (!row || found.has(row.id)) return void unplaced.push({ line: k + 1, text: raw.trim() })
    const read = termDefinition(row.id).parse({ text: value, origin: '' }, { terms, end })
    found.set(row.id, { row, line: k + 1, text: value, ...(!read.ok && { refusal: read.refusal }) })
  })
  return { found: [...found.values()], unplaced }
}
