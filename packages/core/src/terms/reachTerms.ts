import { nodeFamilies, parseNode, formatNode, type BusNode } from '../bus'
import { both, on, overIp, speaksModbus } from './applying'
import { atLeast, choiceTerm, customTerm, quantityTerm } from './makeTerm'
import { apart, equal, fits, setTo, type Told } from './relations'
import { quantityText } from './readers'
import type { TermContext } from './term'

const reach = 'reach' as const
const PRACTICE = 'common practice, no source'

/** How an end comes to its address, or expects the other to. */
export const addressWayTerm = choiceTerm({
  id: 'address-way',
  name: 'Address comes from',
  group: reach,
  explain:
    'Set in the device, reserved by hardware address at a server, or any free one. Some ask for a lease by all zeros.',
  words: { fixed: 'set in the device', reserved: 'reservation', lease: 'any lease' },
  also: { static: 'fixed', dhcp: 'lease', reservation: 'reserved', '0.0.0.0': 'lease' },
  why: 'An address that a server may give to somebody else is asked at the wrong place one day.',
  severity: 'wrong',
  applies: overIp,
  agree: (controller, device, context) =>
    device === 'lease'
      ? {
          state: 'at-odds',
          why: `${context.tags.device} takes any address that a server gives; ${context.tags.controller} asks one that never changes.`,
          fixes: [
            setTo('device', 'fixed', 'an address of its own', context),
            setTo('device', 'reserved', 'a reservation', context),
          ],
        }
      : controller === device
        ? undefined
        : fits(
            device === 'reserved'
              ? 'The same address as long as the reservation stands'
              : 'It keeps its own; the reservation is not used',
          ),
  source: 'RFC 2131 (leases); reservations are common practice, no source',
})

export const textPortTerm = quantityTerm({
  id: 'text-port',
  name: 'Text port',
  group: reach,
  explain: 'The TCP port at which the text of a device arrives, of a converter or of the device itself.',
  field: { name: 'Text port', unit: '', least: 1, most: 65_535, whole: true, reason: 'Ports have 16 bits.' },
  example: '9100',
  why: 'Nobody listens at another port, or another device does.',
  applies: both(on('command'), overIp),
  asked: (context) => context.line === undefined,
  source: 'RFC 793 3.1',
})

export const pageSchemeTerm = choiceTerm({
  id: 'page-scheme',
  name: 'Page',
  group: reach,
  explain: 'Whether the page of a device is asked for with or without encryption.',
  words: { http: 'http', https: 'https' },
  why: 'A page that wants the other scheme shows nothing, or an error that looks like a wrong address.',
  severity: 'worth-knowing',
  applies: overIp,
  source: 'RFC 9110 4.2',
})

export const roleTerm = choiceTerm({
  id: 'role',
  name: 'Role',
  group: reach,
  explain: 'Who asks and who answers. On a serial line the client is called master, the server slave.',
  words: { client: 'client', server: 'server' },
  also: { master: 'client', slave: 'server', scanner: 'client', adapter: 'server', initiator: 'client' },
  relation: 'client meets server',
  why: 'Two clients both ask and nobody answers; two servers both wait.',
  applies: on('modbus', 'cyclic', 'command'),
  agree: (controller, device, context) =>
    controller !== device
      ? fits(controller === 'client' ? `${context.tags.controller} asks` : `${context.tags.device} asks`)
      : {
          state: 'at-odds',
          why: controller === 'client' ? 'Both ask; nobody answers.' : 'Both wait to be asked; nothing is ever sent.',
          fixes: [
            setTo(
              'device',
              controller === 'client' ? 'server' : 'client',
              controller === 'client' ? 'server' : 'client',
              context,
            ),
            setTo(
              'controller',
              controller === 'client' ? 'server' : 'client',
              controller === 'client' ? 'server' : 'client',
              context,
            ),
          ],
        },
  source: 'Modbus Messaging on TCP/IP V1.0b, 3.1; Modbus over Serial Line V1.02, 2.1',
})

export const serviceTerm = choiceTerm({
  id: 'service',
  name: 'Service',
  group: reach,
  explain: 'Whether the service that this handshake uses is switched on in the device, and needed by the controller.',
  words: { on: 'on', off: 'off' },
  also: { yes: 'on', enabled: 'on', needed: 'on', no: 'off', disabled: 'off', 'not needed': 'off' },
  relation: 'on where it is needed',
  why: 'A service that is off refuses the connection although the device answers otherwise.',
  applies: overIp,
  agree: (needed, has) =>
    needed === 'off' && has === 'on' ? fits('On, and not needed here: switch off what nobody uses') : undefined,
  source: PRACTICE,
})

const connections: Told = {
  id: 'connections',
  name: 'Connections',
  group: reach,
  explain: 'How many connections the controller opens at once, and how many the device takes.',
  relation: 'no more than the device takes',
  why: 'One more is refused, or throws another one out.',
  applies: both(on('modbus', 'cyclic', 'command'), overIp),
  source: PRACTICE,
}
export const connectionsTerm = quantityTerm({
  ...connections,
  field: { name: 'Connections', unit: '', least: 1, most: 1024, whole: true },
  agree: (uses, takes, context) =>
    uses === takes
      ? fits('The last free one is used: a laptop gets in no more')
      : atLeast('device', connections, '')(uses, takes, context),
})

export const slotTerm = quantityTerm({
  id: 'slot',
  name: 'Slot',
  group: reach,
  explain: 'The place of the module in its rack, as the project has it and as it is plugged.',
  field: { name: 'Slot', unit: '', least: 0, most: 255, whole: true },
  example: '3',
  why: 'The controller asks another module, or an empty place.',
  applies: on('cyclic', 'bus'),
  source: PRACTICE,
})

/** The family of nodes of the line; where none is known a node is a plain number. */
const familyOf = ({ line }: Pick<TermContext, 'line'>) => nodeFamilies.find(({ id }) => id === line?.family)

const node: Told = {
  id: 'node',
  name: 'Node',
  group: reach,
  explain: 'The number by which the master asks a node of its bus, written as its family writes it.',
  why: 'The master asks a node that is not there, or another one.',
  applies: on('bus'),
  asked: on('bus'),
  source: 'families of nodes: see the bus rules; common practice, no source',
}
/** As it is written: what it means depends on the family, which only the line knows. */
export const nodeTerm = customTerm<string>({
  ...node,
  relation: 'equal, in the family, free',
  example: '12',
  parse: (entry) => {
    const read = /^\d{1,3}$/.test(entry.text.trim())
    return read
      ? { ok: true, value: entry.text.trim() }
      : {
          ok: false,
          refusal: {
            code: 'term.node',
            what: `"${entry.text.trim()}" is no node.`,
            found: entry.text,
            expected: 'a number as the family writes it',
            offers: [],
          },
        }
  },
  format: (value) => value,
  alone: (value, end, context) => {
    const family = familyOf(context)
    const read = family && parseNode(value, family)
    if (read && !read.ok)
      return {
        state: 'at-odds',
        why: read.refusal.what,
        fixes: read.refusal.offers.map(({ value: text, label }) => ({
          end,
          text,
          label,
          sideEffect: 'As this family of nodes is written.',
        })),
      }
    const [first, last] = context.limits?.nodes ?? []
    if (
      end === 'device' &&
      read?.ok &&
      first !== undefined &&
      last !== undefined &&
      (read.value < first || read.value > last)
    )
      return {
        state: 'at-odds',
        why: `Node ${value} is outside ${first} to ${last}, which the description file of ${context.tags.device} allows.`,
        fixes: [],
      }
    const twin = end === 'device' ? context.line?.others('node').find(({ text }) => text.trim() === value) : undefined
    return (
      twin && {
        state: 'at-odds',
        why: `${twin.tag} has node ${value} on ${context.line?.name} too: both answer at once.`,
        fixes: [],
      }
    )
  },
  agree: (controller, device, context) => {
    const family = familyOf(context)
    const number = (text: string): number | undefined => {
      const read = family && parseNode(text, family)
      return read ? (read.ok ? read.value : undefined) : Number(text)
    }
    const [asks, has] = [number(controller), number(device)]
    if (asks === has) return controller === device ? equal : fits(`The same node, decimal ${has}`)
    const say = (value: number | undefined, text: string) =>
      family && value !== undefined ? formatNode(value as BusNode, family) : text
    return apart(node, context, { controller: say(asks, controller), device: say(has, device) })
  },
})

export const topologyTerm = choiceTerm({
  id: 'topology',
  name: 'Topology',
  group: 'line',
  explain:
    'How the devices are cabled: each to a switch, one after the other, or in a ring with somebody who watches it.',
  words: { star: 'star', line: 'line', ring: 'ring' },
  also: { daisychain: 'line', linear: 'line' },
  why: 'A ring that nobody supervises is a loop; a device that expects a ring reports a fault on a line.',
  severity: 'wrong',
  applies: on('cyclic'),
  source: PRACTICE,
})

const largest: Told = {
  id: 'largest-read',
  name: 'Largest read',
  group: 'request',
  explain: 'How many registers are read at once, and how many the device gives in one answer.',
  relation: 'no more than the device gives',
  why: 'Most answer a longer request with exception 2 or 3, some with silence.',
  applies: speaksModbus,
  source: 'Modbus Application Protocol V1.1b3, 6.3: at most 125; less is common practice, no source',
}
export const largestReadTerm = quantityTerm({
  ...largest,
  field: { name: 'Largest read', unit: '', least: 1, most: 2000, whole: true },
  derive: (end, context) => {
    const count = context.terms.count?.controller
    return end === 'controller' && count ? { text: count.text, origin: 'its count' } : undefined
  },
  agree: (reads, gives, context) =>
    reads > gives
      ? {
          ...apart(largest, context, { controller: quantityText(reads, ''), device: quantityText(gives, '') }),
          why: `${context.tags.controller} reads ${reads} at once, ${context.tags.device} gives ${gives}. ${largest.why}`,
          fixes: [],
        }
      : equal,
})
