import { formatIpv4, formatMask, parseIpv4, parseMask, prefixLength } from '../address'
import { parseHardwareAddress, parseHostName } from '../identity'
import { schools } from '../job'
import { restartRules, waysOfSetting } from '../kind'
import { ok } from '../units'
import { oneOf, orBlank, readCount } from './cells'
import {
  countColumn,
  countsInTable,
  mapped,
  named,
  portColumn,
  textColumn,
  textsInTable,
  type DeviceColumn,
  type DeviceColumnId,
} from './column'
import { firmwareNeeded } from './firmwareColumn'
import { nodes, unitId } from './nodeColumns'
import { behind, kind, tag } from './placeColumns'

/** Columns in the order in which people expect them. */
const placed: readonly DeviceColumn[] = [
  tag,
  textColumn('what'),
  kind,
  textColumn('place'),
  textColumn('isolation'),
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
  countColumn('textPort', 'textPort'),
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
  textColumn('asFound'),
  textColumn('orderCode'),
  textColumn('orderCodeFound'),
  textColumn('serialNumber'),
  textColumn('firmwareFound'),
  firmwareNeeded,
  {
    ...textColumn('hostName'),
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
  countColumn('startUp', 'startUpSeconds'),
  countColumn('handsOn', 'handsOnSeconds'),
]

const notPlaced = (id: DeviceColumnId) => id !== 'note' && placed.every((column) => column.id !== id)

/** All columns, in the order in which they are written to a file. What has no place of its own comes before the note. */
export const deviceColumns: readonly DeviceColumn[] = [
  ...placed,
  ...countsInTable.filter(notPlaced).map((id) => countColumn(id, id)),
  ...textsInTable.filter(notPlaced).map(textColumn),
  textColumn('note'),
]

const byId = new Map(deviceColumns.map((column) => [column.id, column]))

/** @throws RangeError for an id that is no column */
export function deviceColumn(id: DeviceColumnId): DeviceColumn {
  const column = byId.get(id)
  if (!column) throw new RangeError(`No such column: ${id}`)
  return column
}
