import { formatIpv4, formatMask, parseIpv4, parseMask, prefixLength } from '../address'
import { formatNode, nodeFamily, parseNode } from '../bus'
import { parseHardwareAddress, parseHostName, type VersionRelation } from '../identity'
import { schools, type Device, type Job, type Port } from '../job'
import { kindFacts, kindsOf, restartRules, waysOfSetting } from '../kind'
import { parseUnitId } from '../modbus'
import { ok, refusal, type Result } from '../units'
import { oneOf, orBlank, readCount, readText } from './cells'
import { relationWords } from './rules'

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

export type DeviceColumnId =
  | 'tag'
  | 'what'
  | 'kind'
  | 'place'
  | 'isolation'
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
  | 'asFound'
  | 'orderCode'
  | 'orderCodeFound'
  | 'serialNumber'
  | 'firmwareFound'
  | 'firmwareNeeded'
  | 'hostName'
  | 'setting'
  | 'effective'
  | 'startUp'
  | 'handsOn'
  | 'note'

type TextField = {
  [K in keyof Device]: Device[K] extends string ? (string extends Device[K] ? K : never) : never
}[keyof Device]

/** A column that is one text of the device. */
function textColumn(
  id: DeviceColumnId & TextField,
  name: string,
  heads: readonly string[],
  typed = false,
  most = 120,
): DeviceColumn {
  return {
    id,
    name,
    heads,
    typed,
    text: (device) => device[id],
    read: (text) => mapped(readText(text, most), (value) => ({ device: { [id]: value } })),
  }
}

const mapped = <T, R>(result: Result<T>, make: (value: T) => R): Result<R> =>
  result.ok ? ok(make(result.value)) : result

/** A column of the first port; a device without a port has a blank there. */
function portColumn<T>(
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

const tag: DeviceColumn = {
  id: 'tag',
  name: 'Tag',
  heads: ['tag', 'device', 'devicetag', 'equipment', 'id', 'name'],
  typed: false,
  text: (device) => device.tag,
  read: (text, job, device) => {
    const typed = text.trim()
    if (typed === '') return refusal('row.tag-blank', 'The tag is blank.', 'nothing', 'a tag such as EM-501')
    if (typed.length > 40) return refusal('row.tag-long', 'The tag is too long.', typed, 'at most 40 characters')
    const holder = job.devices.find((each) => each.tag === typed)
    return holder && holder.id !== device?.id
      ? refusal('row.tag-taken', `There is a device ${typed} already.`, typed, 'a tag of its own')
      : ok({ device: { tag: typed } })
  },
}

const kind: DeviceColumn = {
  id: 'kind',
  name: 'Kind',
  heads: ['kind', 'type', 'devicetype', 'class'],
  typed: false,
  text: (device, job) => kindFacts(device.kind, job.kinds).name,
  read: (text, job) =>
    mapped(
      oneOf(
        text,
        'a kind',
        kindsOf(job.kinds).map((each) => [each.id, each.name]),
      ),
      (id) => ({ device: { kind: id } }),
    ),
  choices: (job) => kindsOf(job.kinds).map((each) => each.name),
}

const behind: DeviceColumn = {
  id: 'behind',
  name: 'Behind',
  heads: ['behind', 'via', 'parent', 'master', 'throughgateway'],
  typed: false,
  text: (device, job) => tagOf(job, device.behindId),
  read: (text, job, device) => {
    const typed = text.trim()
    if (typed === '') return ok({ device: { behindId: null } })
    const other = job.devices.find((each) => each.tag === typed)
    if (!other) return refusal('row.behind', `There is no device ${typed} to hang behind.`, typed, 'a tag of this job')
    if (other.id === device?.id)
      return refusal('row.behind-self', 'A device cannot hang behind itself.', typed, 'another device')
    return ok({ device: { behindId: other.id } })
  },
  choices: (job) =>
    job.devices.filter((each) => kindFacts(each.kind, job.kinds).role === 'gateway').map((each) => each.tag),
}

const tagOf = (job: Job, id: string | null) =>
  id === null ? '' : (job.devices.find((each) => each.id === id)?.tag ?? '')

const unitId: DeviceColumn = {
  id: 'unitId',
  name: 'Unit id',
  heads: ['unit', 'unitid', 'modbusid', 'slave', 'slaveid', 'node'],
  typed: true,
  text: (device) => (device.unitId === null ? '' : String(device.unitId)),
  read: (text) =>
    mapped(
      orBlank(text, (typed) => parseUnitId(/^\d+[.,]0+$/.test(typed) ? typed.replace(/[.,]0+$/, '') : typed, 'tcp')),
      (value) => ({ device: { unitId: value } }),
    ),
}

/** Nodes as `line node`, with semicolons between several; the node as it is written on that line. */
const nodes: DeviceColumn = {
  id: 'nodes',
  name: 'Nodes',
  heads: ['nodes', 'busnode', 'busnodes', 'station', 'stations', 'busaddress'],
  typed: true,
  text: (device, job) =>
    device.nodes
      .map((each) => {
        const line = job.lines.find((one) => one.id === each.lineId)
        return line
          ? `${line.name} ${each.node === null ? '?' : formatNode(each.node as never, nodeFamily(line.family))}`
          : ''
      })
      .filter((text) => text !== '')
      .join('; '),
  read: (text, job, device) => {
    const found: { lineId: string; node: number | null }[] = []
    const [only] = device?.nodes ?? []
    for (const part of text.split(';').map((each) => each.trim())) {
      if (part === '') continue
      const named = job.lines
        .filter((line) => part.toLowerCase().startsWith(`${line.name.toLowerCase()} `))
        .sort((a, b) => b.name.length - a.name.length)[0]
      const line =
        named ??
        job.lines.find((each) => each.id === only?.lineId) ??
        (job.lines.length === 1 ? job.lines[0] : undefined)
      if (!line) return refusal('row.line', `"${part}" does not begin with a line of this job.`, part, lineNames(job))
      const written = named ? part.slice(named.name.length).trim() : part
      if (written === '?') {
        found.push({ lineId: line.id, node: null })
        continue
      }
      const node = parseNode(written, nodeFamily(line.family))
      if (!node.ok) return node
      found.push({ lineId: line.id, node: node.value })
    }
    return ok({ nodes: found })
  },
}

const lineNames = (job: Job) =>
  job.lines.length === 0 ? 'a line; add one first' : job.lines.map((line) => `${line.name} …`).join(', ')

const firmwareNeeded: DeviceColumn = {
  id: 'firmwareNeeded',
  name: 'Firmware needed',
  heads: ['firmwareneeded', 'fwneeded', 'minimumfirmware', 'firmwaremin'],
  typed: true,
  text: (device, job) => {
    const measure = device.firmwareOfId === null ? device.firmwareNeeded : tagOf(job, device.firmwareOfId)
    if (device.firmwareRelation === 'any') return measure === '' ? '' : `${relationWords.any} ${measure}`
    return `${relationWords[device.firmwareRelation]} ${measure}`.trim()
  },
  read: (text, job, device) => {
    const typed = text.trim()
    const { relation, measure } = relationIn(typed)
    const other = job.devices.find((each) => each.tag === measure)
    if (other && other.id === device?.id)
      return refusal('row.firmware-self', 'A device is no measure for itself.', measure, 'another device, or a version')
    if (typed !== '' && measure === '' && relation !== 'any')
      return refusal('row.firmware-blank', 'It says how to compare, but not with what.', typed, 'at least 2.10')
    return ok({
      device: { firmwareRelation: relation, firmwareNeeded: other ? '' : measure, firmwareOfId: other?.id ?? null },
    })
  },
}

function relationIn(text: string): { readonly relation: VersionRelation; readonly measure: string } {
  const forms: readonly (readonly [RegExp, VersionRelation])[] = [
    [/^(at least|>=|≥|from|min\.?)\s*/i, 'at-least'],
    [/^(not above|at most|<=|≤|max\.?)\s*/i, 'not-above'],
    [/^(equal to|equal|=|==)\s*/i, 'equal'],
    [/^(does not matter|any)\s*/i, 'any'],
  ]
  for (const [form, relation] of forms) if (form.test(text)) return { relation, measure: text.replace(form, '').trim() }
  return { relation: text === '' ? 'any' : 'at-least', measure: text }
}

const seconds = (
  id: 'startUp' | 'handsOn',
  field: 'startUpSeconds' | 'handsOnSeconds',
  name: string,
  heads: readonly string[],
): DeviceColumn => ({
  id,
  name,
  heads,
  typed: true,
  text: (device) => (device[field] === null ? '' : String(device[field])),
  read: (text) =>
    mapped(
      orBlank(text, (typed) => readCount(typed, 'Seconds', 0, 86_400)),
      (value) => ({ device: { [field]: value } }),
    ),
})

const named = <K extends string>(record: Readonly<Record<K, { readonly name: string }>>) =>
  (Object.keys(record) as K[]).map((id) => [id, record[id].name] as const)

/** All columns, in the order in which they are written to a file. */
export const deviceColumns: readonly DeviceColumn[] = [
  tag,
  textColumn('what', 'What it is', ['what', 'whatitis', 'description', 'designation', 'text', 'service']),
  kind,
  textColumn('place', 'Place', ['place', 'location', 'panel', 'room', 'area']),
  textColumn('isolation', 'Breaker', ['breaker', 'isolation', 'isolationgroup', 'fuse', 'supply']),
  behind,
  portColumn(
    {
      id: 'network',
      name: 'Network',
      heads: ['network', 'subnet', 'vlan', 'lan'],
      choices: (job) => job.networks.map((each) => each.name),
    },
    (port, job) => job.networks.find((each) => each.id === port.networkId)?.name ?? '',
    (text, job) =>
      orBlank(text, (typed) =>
        oneOf(
          typed,
          'a network of this job',
          job.networks.map((each) => [each.id, each.name]),
        ),
      ),
    'networkId',
  ),
  portColumn(
    {
      id: 'address',
      name: 'Planned address',
      heads: ['address', 'plannedaddress', 'ip', 'ipaddress', 'ipv4', 'ipplanned'],
    },
    (port) => port.address ?? '',
    (text) => mapped(orBlank(text, parseIpv4), (value) => (value === null ? null : formatIpv4(value))),
    'address',
  ),
  portColumn(
    { id: 'mask', name: 'Subnet mask', heads: ['mask', 'subnetmask', 'netmask', 'prefix'] },
    (port) => (port.prefix === null ? '' : formatMask(prefixLength(port.prefix))),
    (text) => orBlank(text, parseMask),
    'prefix',
  ),
  portColumn(
    { id: 'gateway', name: 'Gateway address', heads: ['gateway', 'gatewayaddress', 'defaultgateway', 'router'] },
    (port) => port.gateway ?? '',
    (text) => mapped(orBlank(text, parseIpv4), (value) => (value === null ? null : formatIpv4(value))),
    'gateway',
  ),
  portColumn(
    { id: 'tcpPort', name: 'TCP port', heads: ['tcpport', 'port'] },
    (port) => String(port.tcpPort),
    (text) => (text.trim() === '' ? ok(502) : readCount(text, 'TCP port', 1, 65_535)),
    'tcpPort',
  ),
  portColumn(
    { id: 'mac', name: 'MAC address', heads: ['mac', 'macaddress', 'hardwareaddress', 'ethernetaddress'] },
    (port) => port.mac ?? '',
    (text) => orBlank(text, parseHardwareAddress),
    'mac',
  ),
  portColumn(
    {
      id: 'school',
      name: 'Lives in',
      heads: ['livesin', 'school', 'static', 'dhcp', 'assignment'],
      choices: () => named(schools).map(([, name]) => name),
    },
    (port) => (port.school === null ? '' : schools[port.school].name),
    (text) => orBlank(text, (typed) => oneOf(typed, 'where an address can live', named(schools))),
    'school',
  ),
  unitId,
  nodes,
  textColumn('asFound', 'As found', ['asfound', 'found', 'default', 'factoryaddress', 'currentip', 'oldip']),
  textColumn('orderCode', 'Order code', ['ordercode', 'ordernumber', 'partnumber', 'catalognumber', 'article'], true),
  textColumn('orderCodeFound', 'On the label', ['onthelabel', 'label', 'ordercodefound', 'partfound'], true),
  textColumn('serialNumber', 'Serial number', ['serial', 'serialnumber', 'sn', 'serialno'], true),
  textColumn('firmwareFound', 'Firmware found', ['firmware', 'firmwarefound', 'fw', 'version'], true, 40),
  firmwareNeeded,
  {
    ...textColumn('hostName', 'Host name', ['hostname', 'networkname', 'dnsname'], true),
    read: (text) => mapped(orBlank(text, parseHostName), (value) => ({ device: { hostName: value ?? '' } })),
  },
  {
    id: 'setting',
    name: 'Way of setting',
    heads: ['wayofsetting', 'setby', 'method'],
    typed: false,
    text: (device) => (device.setting === null ? '' : waysOfSetting[device.setting].name),
    read: (text) =>
      mapped(
        orBlank(text, (typed) => oneOf(typed, 'a way of setting', named(waysOfSetting))),
        (value) => ({ device: { setting: value } }),
      ),
    choices: () => named(waysOfSetting).map(([, name]) => name),
  },
  {
    id: 'effective',
    name: 'In force after',
    heads: ['inforceafter', 'restartrule', 'effective', 'takeseffect'],
    typed: false,
    text: (device) => (device.effective === null ? '' : restartRules[device.effective].name),
    read: (text) =>
      mapped(
        orBlank(text, (typed) => oneOf(typed, 'what makes a setting effective', named(restartRules))),
        (value) => ({ device: { effective: value } }),
      ),
    choices: () => named(restartRules).map(([, name]) => name),
  },
  seconds('startUp', 'startUpSeconds', 'Starts in, s', [
    'startsins',
    'startup',
    'startuptime',
    'starttime',
    'boottime',
  ]),
  seconds('handsOn', 'handsOnSeconds', 'Hands-on, s', ['handsons', 'handson', 'handsontime', 'worktime']),
  textColumn('note', 'Note', ['note', 'notes', 'remark', 'remarks', 'comment']),
]

const byId = new Map(deviceColumns.map((column) => [column.id, column]))

/** @throws RangeError for an id that is no column */
export function deviceColumn(id: DeviceColumnId): DeviceColumn {
  const column = byId.get(id)
  if (!column) throw new RangeError(`No such column: ${id}`)
  return column
}
