import type { DeviceKindFacts } from '../../kind'
import { notations, type Notation } from '../../modbus'
import { readForbidden } from '../../packing'
import { exchanges, termIds, type End, type Exchange, type TermId } from '../../terms'
import type { Tolerance } from '../../values'
import { requestKinds } from '../media'
import { accesses, type Access } from '../access'
import type { AddressRule, Mode, NamePlace, Reference, RequestKind, Served, Source, TermMirror } from '../model'
import { howWords, type How } from '../../evidence'
import {
  blankPath,
  type ImagePlan,
  type MemoryPlan,
  type MessagePlan,
  type PathTimes,
  type TablesTaken,
} from '../pathPlan'
import { standingWords, type TermStanding } from '../standingWords'
import { day, link, longText, number, oneOf, orOpen, readBy, shape, tag, text, whole, yesNo } from './field'

export const jobFields = {
  name: tag('name', 80),
  place: text('place', { blank: '' }),
  mode: oneOf<Mode>('against', ['plant', 'bench']),
  /** Blocks that differ from those of the kinds. */
  addressRules: shape<readonly AddressRule[]>('blocks of addresses', 'address-rules', { blank: [], since: 2 }),
}

export const kindFields = { facts: shape<DeviceKindFacts>('facts', 'kind-facts') }

/** Something only others can give: a range, a reservation, a setting, an order code. */
export const requestFields = {
  about: oneOf<RequestKind>('about', requestKinds),
  what: text('what is asked', { least: 2, most: 200 }),
  toWhom: text('to whom'),
  deviceIds: shape<readonly string[]>('devices', 'device-ids'),
  askedOn: orOpen(day('asked on')),
  dueOn: orOpen(day('due on')),
  answer: longText('answer', 4000),
  answeredOn: orOpen(day('answered on')),
}

/** A finding that a person lets stand, with the reason. It lapses when what was found changes. */
export const acceptanceFields = {
  rule: text('rule', { most: 60 }),
  subjectId: link('about', 'any'),
  /** What was found when it was accepted. */
  found: text('found', { most: 600 }),
  reason: text('reason', { least: 3, most: 400 }),
}

const readAddresses = (text: string) => readForbidden(text, 'holding-registers')

export const handshakeFields = {
  position: number('place in the list', 0),
  name: text('name', { least: 1 }),
  controllerId: link('controller end', 'device'),
  deviceId: link('device end', 'device'),
  /** How the two ends speak: decides which terms there are. */
  exchange: oneOf<Exchange>('exchange', exchanges, { blank: 'modbus', since: 6 }),
  /** Addresses of the device that must not be read: reading some clears them, or stops the device. */
  unreadable: readBy('addresses not to be read', readAddresses, { most: 400, mayBeBlank: true, blank: '', since: 7 }),
  /** Registers that the device gives only in a request of their own. */
  alone: readBy('registers read alone', readAddresses, { most: 400, mayBeBlank: true, blank: '', since: 8 }),
  /** Whether values of two registers and more may only begin at even addresses. */
  evenOnly: yesNo('longer values at even addresses only', { blank: false, since: 8 }),
  /** Highest address that the device has; open where its manual does not say it. */
  lastAddress: orOpen(whole('highest address', 0, 65_535, { since: 8 }), { blank: null }),
  /** Registers that show what settings of the device stand at, where its kind does not say it. */
  mirrors: shape<readonly TermMirror[]>('registers that mirror settings', 'mirrors', { blank: [], since: 8 }),
  /** Modules behind the device in slot order, one line each; blank where they are as they are plugged in the line-up. */
  modules: longText('modules in slot order', 8000, { blank: blankPath.modules, since: 9 }),
  image: shape<ImagePlan>('image of the modules', 'image', { blank: blankPath.image, since: 9 }),
  memory: shape<MemoryPlan>('memory between the ends', 'memory', { blank: blankPath.memory, since: 9 }),
  times: shape<PathTimes>('times on the way', 'times', { blank: blankPath.times, since: 9 }),
  message: shape<MessagePlan>('messages', 'message', { blank: blankPath.message, since: 9 }),
  tablesTaken: shape<TablesTaken>('tables taken', 'tables-taken', { blank: blankPath.tablesTaken, since: 9 }),
}

/** What one end says of one term. Terms that the line-up knows are not stored again. */
export const termFields = {
  termId: oneOf<TermId>('term', termIds),
  end: oneOf<End>('end', ['controller', 'device']),
  text: text('value', { most: 60 }),
  /** For registers: how the document at this end counts. */
  notation: orOpen(oneOf<Notation>('how it counts', notations)),
  origin: text('where it stands'),
  /** Where else it must stand at this end, and what stands there; a place that nobody looked at has a blank text. */
  places: shape<readonly NamePlace[]>('other places', 'name-places', { blank: [], since: 6 }),
}

/** What stands in a term at one end, as it was found, entered or seen in force. Rows are added; the latest one counts. */
export const standingFields = {
  /** The handshake, device, port or line that holds the term: what is said once counts wherever it is used. */
  subjectId: link('about', 'any'),
  termId: oneOf<TermId>('term', termIds),
  end: oneOf<End>('end', ['controller', 'device']),
  standing: oneOf<TermStanding>('standing', standingWords),
  text: text('value', { most: 60 }),
  notation: orOpen(oneOf<Notation>('how it counts', notations), { blank: null }),
  how: oneOf<How>('how', howWords),
  origin: text('where it was seen', { blank: '' }),
}

/** One quantity that travels: from the device's register to the controller's tag to a screen. */
export const pointFields = {
  position: number('place in the list', 0, { blank: 0, since: 4 }),
  /** The tag in the controller. */
  tag: tag('tag'),
  quantity: text('quantity', { least: 1 }),
  unit: text('unit', { most: 20 }),
  decimals: whole('decimals', 0, 9),
  /** Where the device keeps it; open where the terms of the handshake say it. */
  source: orOpen(shape<Source>('register of the device', 'source', { since: 4 }), { blank: null }),
  /** Where the controller serves the tag, and as what; open where it cannot be asked. */
  served: orOpen(shape<Served>('served at', 'served')),
  /** The screen where people see it. */
  shownAt: text('shown at'),
  reference: orOpen(shape<Reference>('reference', 'reference')),
  tolerance: shape<Tolerance>('tolerance', 'tolerance'),
  /** Range of the quantity; a value outside it is never right. */
  low: orOpen(number('lowest value', undefined, { since: 7 }), { blank: null }),
  high: orOpen(number('highest value', undefined, { since: 7 }), { blank: null }),
  /** How often it is wanted. */
  pollMs: orOpen(whole('wanted every', 10, 3_600_000, { since: 7, unit: 'ms' }), { blank: null }),
  /** How old it may be where it is looked at. */
  ageMs: orOpen(whole('at most so old', 1, 3_600_000, { since: 7, unit: 'ms' }), { blank: null }),
  /** Seen from the controller. */
  access: oneOf<Access>('access', accesses, { blank: 'read', since: 7 }),
  /** What goes into motion, opens or stops when it is written; blank where nobody said it. */
  moves: text('what it may move', { most: 200, blank: '', since: 8 }),
  /** When the device makes a new value: on change, every second, at midnight. */
  updates: text('when it is new', { most: 120, blank: '', since: 8 }),
  /** Word of the memory between the ends from which it is sent; open where it is placed by itself. */
  sentFrom: orOpen(whole('sent from word', 0, 100_000, { since: 9 }), { blank: null }),
  /** Whether the handshake asks for it: a rung is proven when every point that is asked for is. */
  asked: yesNo('has to be proven', { blank: true, since: 4 }),
}

/** What a new point of a device has: a value that can be asked for at once. */
export const blankPoint = (deviceTag: string) => ({
  position: 0,
  tag: `${deviceTag.replace(/[^A-Za-z0-9]/g, '') || 'Device'}_Value`,
  quantity: 'Value',
  unit: '',
  decimals: 2,
  source: null,
  served: null,
  shownAt: '',
  reference: null,
  tolerance: { kind: 'percent-of-reading', percent: 1 } satisfies Tolerance as Tolerance,
  asked: true,
  low: null,
  high: null,
  pollMs: null,
  ageMs: null,
  access: 'read' as Access,
  moves: '',
  updates: '',
  sentFrom: null,
})
