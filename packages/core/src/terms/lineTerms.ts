import { readLineSettings } from '../serial'
import { both, on, onSerialLine, passedOn } from './applying'
import { longestBus } from './busTerms'
import { choiceTerm, quantityTerm } from './makeTerm'
import { aloneApart, apart, equal, fits, setTo, valueAt, type Told } from './relations'
import { ok, type Result } from '../units'
import { quantityText, readChoice, readQuantity } from './readers'
import type { TermContext, TermDefinition, TermEntry } from './term'

const line = 'line' as const
const PRACTICE = 'common practice, no source'
const SERIAL = 'Modbus over Serial Line V1.02'

/** Electrical kinds, with how many wires carry data and how long a line may be at a slow rate, in metres. */
export const electricalKinds = {
  'rs-232': { name: 'RS-232', wires: 'one each way', longest: 15 },
  'rs-422': { name: 'RS-422', wires: 'four', longest: 1200 },
  'rs-485-two-wire': { name: 'RS-485, two wires', wires: 'two', longest: 1200 },
  'rs-485-four-wire': { name: 'RS-485, four wires', wires: 'four', longest: 1200 },
} as const
type Electrical = keyof typeof electricalKinds

const electricalWords = Object.fromEntries(
  Object.entries(electricalKinds).map(([id, { name }]) => [id, name]),
) as Record<Electrical, string>

/** RS-422 and four-wire RS-485 have the same four wires. */
const fourWires: readonly Electrical[] = ['rs-422', 'rs-485-four-wire']

export const electricalTerm: TermDefinition<Electrical> = choiceTerm({
  id: 'electrical',
  name: 'Electrical kind',
  group: line,
  explain: 'The electrical kind of the line and how many wires it has. A connector alone does not tell.',
  words: electricalWords,
  also: {
    '485': 'rs-485-two-wire',
    rs485: 'rs-485-two-wire',
    '2-wire': 'rs-485-two-wire',
    '4-wire': 'rs-485-four-wire',
    '232': 'rs-232',
    '422': 'rs-422',
  },
  relation: 'equal; RS-422 meets four wires of RS-485',
  why: 'Other voltages on other wires: nothing passes, and a port may be damaged.',
  applies: onSerialLine,
  agree: (controller, device) =>
    controller !== device && fourWires.includes(controller) && fourWires.includes(device)
      ? fits('Four wires at both ends; several answer only where each lets go of the line')
      : undefined,
  source: 'TIA-485-A, TIA-422-B, TIA-232-F; four wires for both: common practice, no source',
})

export const duplexTerm = choiceTerm({
  id: 'duplex',
  name: 'Duplex',
  group: line,
  explain: 'Whether both ends may send at once. On two wires only one may.',
  words: { half: 'half', full: 'full' },
  why: 'An end that sends while the other one does loses both messages.',
  applies: onSerialLine,
  alone: (value, end, context) =>
    value === 'full' && valueAt(electricalTerm, context, end) === 'rs-485-two-wire'
      ? aloneApart(end, 'Two wires carry one direction at a time: full duplex is not possible.', context, [
          { text: 'half' },
        ])
      : undefined,
  source: PRACTICE,
})

export const flowControlTerm = choiceTerm({
  id: 'flow-control',
  name: 'Flow control',
  group: line,
  explain: 'How an end says that it cannot take more: not at all, by wires, or by characters.',
  words: { none: 'none', wires: 'by wires', characters: 'by characters' },
  also: {
    'rts/cts': 'wires',
    rtscts: 'wires',
    hardware: 'wires',
    'xon/xoff': 'characters',
    xonxoff: 'characters',
    software: 'characters',
  },
  why: 'One end waits for a permission that the other never gives.',
  applies: onSerialLine,
  alone: (value, end, context) =>
    value === 'characters' && (context.exchange ?? 'modbus') === 'modbus'
      ? aloneApart(
          end,
          'Flow control by characters takes bytes 11 and 13 hex out of every RTU frame: it never works.',
          context,
          [{ text: 'none' }],
        )
      : undefined,
  source: 'RTU frames carry any byte: Modbus over Serial Line V1.02, 2.5.1; the rest common practice, no source',
})

/** Whether the line is RS-232, or nobody has said what it is: the others have no terminal and modem ends. */
function mayBeRs232(context: TermContext): boolean {
  const kind = valueAt(electricalTerm, context, 'controller')
  return kind === undefined || kind === 'rs-232'
}

export const serialRoleTerm = choiceTerm({
  id: 'serial-role',
  name: 'Terminal or modem end',
  group: line,
  explain: 'How the connector of an end is wired: as a terminal sends, or as a modem does. It decides the cable.',
  words: { terminal: 'terminal end', modem: 'modem end' },
  also: { dte: 'terminal', dce: 'modem' },
  relation: 'decides the cable',
  why: 'Two ends that send on the same wire hear nothing.',
  applies: both(onSerialLine, mayBeRs232),
  agree: (controller, device) =>
    fits(controller === device ? 'Wants a null-modem cable (crossed)' : 'Wants a straight cable'),
  source: 'TIA-232-F',
})

type Cable = 'straight' | 'null-modem'

/** Two terminal ends, or two modem ends, want a crossed cable. */
function cableFor(context: TermContext): Cable | undefined {
  const [controller, device] = [
    valueAt(serialRoleTerm, context, 'controller'),
    valueAt(serialRoleTerm, context, 'device'),
  ]
  if (controller === undefined || device === undefined) return undefined
  return controller === device ? 'null-modem' : 'straight'
}

const cableWords: Readonly<Record<Cable, string>> = { straight: 'straight', 'null-modem': 'null-modem' }
export const cableTerm = choiceTerm({
  id: 'cable',
  name: 'Cable',
  group: line,
  explain: 'The cable that is plugged in, looked at from each end.',
  words: cableWords,
  also: { crossed: 'null-modem', nullmodem: 'null-modem' },
  relation: 'null-modem between two terminal ends, straight from terminal to modem end',
  why: 'With the other cable both send on one wire and listen on the other.',
  applies: both(onSerialLine, mayBeRs232),
  alone: (value, end, context) => {
    const wanted = cableFor(context)
    return wanted === undefined || wanted === value
      ? undefined
      : aloneApart(
          end,
          `These two ends want a ${cableWords[wanted]} cable; a ${cableWords[value]} one is plugged in.`,
          context,
          [{ text: wanted }],
        )
  },
  source: 'TIA-232-F; common practice, no source',
})

const placeWords = {
  'end-on': 'at the end, terminated',
  'end-off': 'at the end, open',
  'end-built-in': 'at the end, terminator built in',
  'between-off': 'between, open',
  'between-on': 'between, terminated',
} as const
type Place = keyof typeof placeWords
const biasWords = { on: 'on', off: 'off', 'not-needed': 'not needed' } as const
const biasAlso = { polarisation: 'on', none: 'off' } as const
const isTerminated = (place: Place) => place === 'end-on' || place === 'end-built-in' || place === 'between-on'

/** What all that is known of a line says of a term, each device once, as far as it can be read. */
function allOn<K extends string>(
  context: TermContext,
  id: 'termination' | 'bias',
  words: Readonly<Record<K, string>>,
  also: Readonly<Record<string, NoInfer<K>>> = {},
): readonly { readonly tag: string; readonly says: K }[] {
  const own = (['controller', 'device'] as const).flatMap((end) => {
    const entry = context.terms[id]?.[end]
    return entry ? [{ tag: context.tags[end], text: entry.text }] : []
  })
  const all = [...own, ...(context.line?.others(id) ?? [])]
  return all
    .filter(({ tag }, k) => all.findIndex((each) => each.tag === tag) === k)
    .flatMap(({ tag, text }) => {
      const read = readChoice(text, words, also)
      return read.ok ? [{ tag, says: read.value }] : []
    })
}

export const terminationTerm = choiceTerm({
  id: 'termination',
  name: 'Termination',
  group: line,
  explain: 'Whether a terminating resistor is on, and whether this is an end of the bus. Some ends have one built in.',
  words: placeWords,
  relation: 'on at both ends of the bus, nowhere between',
  why: 'Without a terminator the end reflects every edge; with one between, the line is loaded and the far end hears nothing.',
  applies: (context) => onSerialLine(context) || on('bus')(context),
  alone: (value, end, context) => {
    if (value === 'end-off')
      return aloneApart(end, `${context.tags[end]} is an end of the bus and open: it reflects.`, context, [
        { text: 'end-on', shown: 'terminated' },
      ])
    if (value === 'between-on')
      return aloneApart(end, `${context.tags[end]} is between the ends and terminated: it loads the line.`, context, [
        { text: 'between-off', shown: 'open' },
      ])
    return undefined
  },
  agree: (_controller, _device, context) => {
    const ends = allOn(context, 'termination', placeWords).filter(({ says }) => isTerminated(says))
    return ends.length === 2
      ? fits(`Both ends terminated: ${ends.map(({ tag }) => tag).join(' and ')}`)
      : {
          state: 'at-odds',
          why:
            ends.length < 2
              ? `${ends.length === 0 ? 'Nobody' : `Only ${ends[0]?.tag}`} of those that are known terminates ${context.line?.name ?? 'the bus'}; both of its ends must.`
              : `${ends.length} terminators are on: ${ends.map(({ tag }) => tag).join(', ')}. A bus has two ends.`,
          fixes: [],
        }
  },
  source: `${SERIAL}, 3.4.5; TIA-485-A`,
})

export const biasTerm: TermDefinition<'on' | 'off' | 'not-needed'> = choiceTerm({
  id: 'bias',
  name: 'Bias',
  group: line,
  explain: 'Resistors that hold the idle line at a known level. Receivers that need none say so.',
  words: biasWords,
  also: biasAlso,
  relation: 'on at exactly one point, unless no receiver needs it',
  why: 'Without it an idle line floats and characters appear from nowhere; at two points the line is loaded.',
  severity: 'wrong',
  applies: onSerialLine,
  agree: (controller, device, context) => {
    const all = allOn(context, 'bias', biasWords, biasAlso)
    const points = all.filter(({ says }) => says === 'on')
    if (points.length === 1) return fits(`At ${points[0]?.tag}`)
    if (points.length === 0 && all.every(({ says }) => says === 'not-needed'))
      return fits('No receiver that is known needs it')
    return points.length === 0
      ? {
          state: 'at-odds',
          why: `Nobody biases ${context.line?.name ?? 'the line'}, and ${controller === 'not-needed' && device === 'not-needed' ? 'another receiver' : 'a receiver'} needs it. ${biasTerm.why}`,
          fixes: [setTo('controller', 'on', 'on', context)],
        }
      : {
          state: 'at-odds',
          why: `${points.length} points bias the line: ${points.map(({ tag }) => tag).join(', ')}. One is right.`,
          fixes: [setTo('device', 'off', 'off', context)],
        }
  },
  source: `${SERIAL}, 3.4.6`,
})

export const groundTerm: TermDefinition<'connected' | 'open' | 'isolated'> = choiceTerm({
  id: 'ground',
  name: 'Common wire',
  group: line,
  explain: 'The wire that joins the grounds of both ends, beside the data wires.',
  words: { connected: 'connected', open: 'not connected', isolated: 'port isolated' },
  why: 'Without a common the levels drift apart until bits are lost, mostly when something large switches.',
  severity: 'wrong',
  applies: onSerialLine,
  agree: (controller, device, context) =>
    controller === 'open' || device === 'open'
      ? {
          state: 'at-odds',
          why: `${controller === 'open' ? context.tags.controller : context.tags.device} has no common wire. ${groundTerm.why}`,
          fixes: [setTo(controller === 'open' ? 'controller' : 'device', 'connected', 'connected', context)],
        }
      : controller === device
        ? equal
        : fits('One port is isolated; the common is still wanted on two wires'),
  source: `${SERIAL}, 3.4.4`,
})

/** Bit rate of the line as far as its settings can be read. */
function rateOf({ terms }: TermContext): number | undefined {
  const entry = terms['line-settings']?.controller ?? terms['line-settings']?.device
  const read = entry && readLineSettings(entry.text)
  return read?.ok ? read.value.baudRate : undefined
}

const METRES = { name: 'Length', unit: 'm', units: { km: 1000 }, least: 0, most: 20_000 }
const limit = (text: string | undefined, origin: string): TermEntry | undefined =>
  text === undefined ? undefined : { text, origin }

const length: Told = {
  id: 'line-length',
  name: 'Length of the line',
  group: line,
  explain: 'From one end of the line to the other, against what its bit rate allows.',
  relation: 'no longer than the bit rate allows',
  why: 'A longer line rounds the bits off: errors come and go with the weather and the load.',
  severity: 'wrong',
  applies: (context) => onSerialLine(context) || on('bus')(context),
  source:
    'TIA-485-A: 1 200 m; length times bit rate at most 10^8 m bit/s: common practice, no source; RS-232 15 m: from memory',
}
/** The longest line that its electrical kind and bit rate, or its bus, allow, in metres. */
export function longestLine(context: TermContext): number | undefined {
  if (on('bus')(context)) return longestBus(context)
  const electrical = valueAt(electricalTerm, context, 'controller')
  const kind = electrical && electricalKinds[electrical]
  const rate = rateOf(context)
  if (!kind || rate === undefined) return undefined
  return kind.longest === 15 ? 15 : Math.min(kind.longest, Math.floor(1e8 / rate))
}
export const lineLengthTerm = quantityTerm({
  ...length,
  field: METRES,
  derive: (end, context) => {
    const longest = end === 'controller' ? longestLine(context) : undefined
    return limit(longest === undefined ? undefined : String(longest), 'by its bit rate')
  },
  agree: (allowed, is, context) =>
    is <= allowed
      ? fits(`${quantityText(allowed - is, 'm')} to spare`)
      : {
          ...apart(length, context, { controller: quantityText(allowed, 'm'), device: quantityText(is, 'm') }),
          why: `${quantityText(is, 'm')} long; ${quantityText(allowed, 'm')} is the most at this rate. ${length.why}`,
          fixes: [],
        },
})

/** Longest drop by the specification, in metres. */
const LONGEST_DROP = 20
export const dropLengthTerm = quantityTerm({
  id: 'drop-length',
  name: 'Drop',
  group: line,
  explain: 'The stretch from the bus to this device, where it is not wired through.',
  relation: 'short: at most 20 m',
  why: 'A long drop reflects like an open end.',
  severity: 'wrong',
  applies: onSerialLine,
  field: { ...METRES, name: 'Drop' },
  derive: (end) => (end === 'controller' ? { text: String(LONGEST_DROP), origin: 'specification' } : undefined),
  agree: (allowed, is, context) =>
    is <= allowed
      ? equal
      : {
          state: 'at-odds',
          why: `The drop to ${context.tags.device} is ${quantityText(is, 'm')}; ${quantityText(allowed, 'm')} is the most. Wire it through instead.`,
          fixes: [],
        },
  source: `${SERIAL}, 3.4.3: never more than 20 m`,
})

/** Unit loads as labels say them: 1, 0.5, 1/8. */
const UNIT_LOADS = { name: 'Unit loads', unit: '', least: 0, most: 256 }
function readLoads(text: string): Result<number> {
  const [, over = '', under = ''] = /^(\d+)\s*\/\s*([1-9]\d*)$/.exec(text.trim()) ?? []
  return over === '' ? readQuantity(text, UNIT_LOADS) : ok(Number(over) / Number(under))
}

const unitLoads = quantityTerm({
  id: 'unit-loads',
  name: 'Unit loads',
  group: line,
  explain: 'What this receiver takes of the 32 unit loads of a segment: 1, or 1/2, 1/4, 1/8 for newer ones.',
  relation: 'all together at most 32',
  why: 'More load than a driver can carry makes the levels too small at the far end.',
  severity: 'wrong',
  applies: onSerialLine,
  field: UNIT_LOADS,
  example: '1',
  derive: (end) => (end === 'controller' ? { text: '32', origin: 'specification' } : undefined),
  agree: (allowed, own, context) => {
    const others = (context.line?.others('unit-loads') ?? []).map(({ text }) => readLoads(text))
    const all = others.reduce((sum, each) => sum + (each.ok ? each.value : 0), own)
    const known = `${quantityText(all, '')} of ${allowed} by those that are known`
    return all <= allowed ? fits(known) : { state: 'at-odds', why: `${known}: a repeater is needed.`, fixes: [] }
  },
  source: 'TIA-485-A: 32 unit loads',
})
export const unitLoadsTerm: TermDefinition<number> = { ...unitLoads, parse: (entry) => readLoads(entry.text) }

export const converterTopologyTerm = choiceTerm({
  id: 'converter-topology',
  name: 'Behind the converter',
  group: line,
  explain: 'Whether a converter speaks with one partner or with several on one line.',
  words: { 'point-to-point': 'point to point', 'multi-drop': 'multi-drop' },
  also: { ptp: 'point-to-point', bus: 'multi-drop' },
  why: 'Set for one partner, it puts no unit number in front, or drives the line all the time.',
  applies: passedOn,
  source: PRACTICE,
})

export const liveConnectorTerm = choiceTerm({
  id: 'live-connector',
  name: 'Live connector',
  group: line,
  explain: 'Which of several connectors of one port is in use. It sets the electrical kind too; the other one is dead.',
  words: { '9-pin': '9-pin', terminals: 'terminals', '8-pin': '8-pin modular', round: 'round' },
  also: { 'd-sub': '9-pin', rj45: '8-pin', screw: 'terminals' },
  why: 'A cable in the dead connector is a cable in nothing.',
  applies: passedOn,
  source: PRACTICE,
})
