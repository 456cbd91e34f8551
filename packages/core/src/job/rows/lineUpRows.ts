import { parseIpv4, parseRanges, parseSubnet } from '../../address'
import { nodeFamilies } from '../../bus'
import { parseHardwareAddress, type VersionRelation } from '../../identity'
import { restartRules, waysOfSetting, type RestartRule, type WayOfSetting } from '../../kind'
import { limits } from '../../modbus'
import { lineMedia, schools } from '../media'
import type { LineMedium, NamePlace, School } from '../model'
import { link, number, oneOf, orOpen, readBy, shape, tag, text, whole, yesNo } from './field'

/** What came with the second version of the job file. */
const SECOND = 2

export const networkFields = {
  name: tag('name'),
  /** CIDR, for example 10.20.40.0/24. */
  cidr: readBy('network', parseSubnet),
  gateway: orOpen(readBy('gateway', parseIpv4)),
  vlan: orOpen(whole('VLAN', 1, 4094)),
  /** Ranges with commas between them. */
  dhcp: readBy('DHCP range', parseRanges, { mayBeBlank: true }),
  reserved: readBy('reserved', parseRanges, { mayBeBlank: true }),
  /** Where addresses of this network live. */
  school: oneOf<School>('lives in', schools, { blank: 'static', since: SECOND }),
}

/** A serial line or a bus. */
export const lineFields = {
  name: tag('name'),
  medium: oneOf<LineMedium>('medium', lineMedia),
  /** Id of the family of nodes. */
  family: oneOf<string>(
    'numbering',
    nodeFamilies.map((family) => family.id),
  ),
  /** In short, for example `9600 8N1`. */
  settings: text('settings', { most: 60 }),
  /** The serial port of this laptop that is plugged into the line; blank where none is. */
  laptopPort: text('serial port of this laptop', { most: 120, blank: '', since: 4 }),
  /** How long whoever asks on the line waits for a unit, ms. */
  timeoutMs: orOpen(whole('timeout on the line', 1, 60_000, { since: 8, unit: 'ms' }), { blank: null }),
  /** Tries after the first. */
  retries: orOpen(whole('retries on the line', 0, 10, { since: 8 }), { blank: null }),
  /** What a gateway takes for itself with each try, ms. */
  gatewayMs: orOpen(whole('time of the gateway', 0, 10_000, { since: 8, unit: 'ms' }), { blank: null }),
}

export const deviceFields = {
  position: number('place in the list', 0),
  tag: tag('tag'),
  what: text('what it is', {
    blank: '',
    heads: ['what', 'whatitis', 'description', 'designation', 'text', 'service'],
    inRecord: true,
  }),
  /** Id of a kind: one that ships, or one of the job's own. */
  kind: shape<string>('kind', 'kind-id'),
  /** The gateway, rack or converter that this device hangs behind. */
  behindId: orOpen(link('behind', 'device'), { blank: null }),
  unitId: orOpen(
    whole('unit id', 0, limits.directTcpUnit, {
      except: [limits.lastSerialUnit + 1, limits.directTcpUnit - 1],
      otherwise: {
        except: 'Unit id {value} is reserved. Use 1 to 247, or 255 for the device itself',
        above: 'Unit id {value} is above 255. Use 1 to 247, or 255 for the device itself',
      },
    }),
    { blank: null },
  ),
  /** TCP port of the device that it hangs behind, at which its text arrives. */
  textPort: orOpen(whole('text port', 1, 65_535, { since: 5, heads: ['textport', 'serialport', 'rawport'] }), {
    blank: null,
  }),
  /** Where bare numbers in its document count from; open where the document says it, or nobody was asked. */
  documentFrom: orOpen(oneOf<'0' | '1'>('its document counts from', ['0', '1'], { since: 9 }), { blank: null }),
  /** Whether the programming tool of this controller is told one more than the address in the frame. */
  toolAddsOne: yesNo('tool adds one to an address', { blank: false, since: 9 }),
  asFound: text('as found', {
    blank: '',
    heads: ['asfound', 'found', 'default', 'factoryaddress', 'currentip', 'oldip'],
  }),
  note: text('note', { most: 400, blank: '', heads: ['note', 'notes', 'remark', 'remarks', 'comment'] }),
  /** Panel, field, room. */
  place: text('place', {
    blank: '',
    since: SECOND,
    heads: ['place', 'location', 'panel', 'room', 'area'],
    inRecord: true,
  }),
  /** The breaker or isolation group that takes its power. */
  isolation: text('breaker', {
    blank: '',
    since: SECOND,
    heads: ['breaker', 'isolation', 'isolationgroup', 'fuse', 'supply'],
    inRecord: true,
  }),
  /** As the parts list says. */
  orderCode: text('order code', {
    blank: '',
    since: SECOND,
    heads: ['ordercode', 'ordernumber', 'partnumber', 'catalognumber', 'article'],
    typed: true,
  }),
  /** As the label says. */
  orderCodeFound: text('on the label', {
    blank: '',
    since: SECOND,
    heads: ['onthelabel', 'label', 'ordercodefound', 'partfound'],
    typed: true,
  }),
  serialNumber: text('serial number', {
    blank: '',
    since: SECOND,
    heads: ['serial', 'serialnumber', 'sn', 'serialno'],
    typed: true,
    inRecord: true,
  }),
  firmwareFound: text('firmware found', {
    most: 40,
    blank: '',
    since: SECOND,
    heads: ['firmware', 'firmwarefound', 'fw', 'version'],
    typed: true,
  }),
  firmwareNeeded: text('firmware needed', { most: 40, blank: '', since: SECOND }),
  firmwareRelation: oneOf<VersionRelation>('firmware', ['equal', 'at-least', 'not-above', 'any'], {
    blank: 'any',
    since: SECOND,
  }),
  /** The device whose firmware is the measure; open where `firmwareNeeded` is. */
  firmwareOfId: orOpen(link('firmware of', 'device', { since: SECOND }), { blank: null }),
  hostName: text('host name', {
    most: 253,
    blank: '',
    since: SECOND,
    heads: ['hostname', 'networkname', 'dnsname'],
    typed: true,
    inRecord: true,
  }),
  /** Where else its name must stand, and what stands there. */
  namePlaces: shape<readonly NamePlace[]>('places of the name', 'name-places', { blank: [], since: SECOND }),
  /** Open where the kind says it. */
  setting: orOpen(oneOf<WayOfSetting>('way of setting', waysOfSetting, { since: SECOND }), { blank: null }),
  effective: orOpen(oneOf<RestartRule>('in force after', restartRules, { since: SECOND }), { blank: null }),
  startUpSeconds: orOpen(
    whole('starts in', 0, 86_400, {
      since: SECOND,
      unit: 's',
      heads: ['startsins', 'startup', 'startuptime', 'starttime', 'boottime'],
    }),
    { blank: null },
  ),
  /** What it adds to the image of the head that it is plugged to. */
  inputBytes: orOpen(
    whole('input bytes', 0, 2000, { since: 8, heads: ['inputbytes', 'bytesin', 'inbytes', 'inputsize'] }),
    { blank: null },
  ),
  outputBytes: orOpen(
    whole('output bytes', 0, 2000, { since: 8, heads: ['outputbytes', 'bytesout', 'outbytes', 'outputsize'] }),
    { blank: null },
  ),
  handsOnSeconds: orOpen(
    whole('hands-on', 0, 86_400, {
      since: SECOND,
      unit: 's',
      heads: ['handsons', 'handson', 'handsontime', 'worktime'],
    }),
    { blank: null },
  ),
}

export const portFields = {
  name: text('name', { least: 1, blank: 'Ethernet' }),
  networkId: orOpen(link('network', 'network'), { blank: null }),
  /** The planned address. */
  address: orOpen(readBy('planned address', parseIpv4), { blank: null }),
  /** The device's own mask; open takes the mask of its network. */
  prefix: orOpen(whole('subnet mask', 0, 32), { blank: null }),
  gateway: orOpen(readBy('gateway address', parseIpv4), { blank: null }),
  tcpPort: whole('TCP port', 1, 65_535, { blank: 502 }),
  /** Hardware address, in capital pairs with colons. */
  mac: orOpen(readBy('MAC address', parseHardwareAddress, { most: 40, keeps: 'read', since: SECOND }), { blank: null }),
  /** Open where the network says it. */
  school: orOpen(oneOf<School>('lives in', schools, { since: SECOND }), { blank: null }),
}

/** One place of a device on a line. A two-axis drive has two. */
export const nodeFields = {
  lineId: link('line', 'line'),
  /** What of the device sits there, where it has several: `axis 2`. */
  name: text('name', { most: 40, blank: '' }),
  /** The number of the node, whatever base it is written in; open while it is not planned. */
  node: orOpen(whole('node', 0, 255), { blank: null }),
  isMaster: yesNo('master', { blank: false }),
}
