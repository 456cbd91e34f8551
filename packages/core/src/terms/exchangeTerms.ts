import { on, onSerialLine, passedOn, speaksModbus } from './applying'
import { atLeast, choiceTerm, customTerm, quantityTerm } from './makeTerm'
import { aloneApart, apart, equal, fits, setTo, valueAt, type Told } from './relations'
import { duplexTerm } from './lineTerms'
import { quantityText, readBytes, readQuantity, readStretch, type QuantityField, type Stretch } from './readers'
import type { End, TermContext, TermDefinition, TermId } from './term'

const request = 'request' as const
const PRACTICE = 'common practice, no source'

export const MS: Omit<QuantityField, 'name'> = {
  unit: 'ms',
  units: { s: 1000, us: 0.001, µs: 0.001 },
  least: 0,
  most: 3_600_000,
}

/** A quantity that one end says, in ms; `undefined` where nobody says it, or it cannot be read. */
export function timeAt(
  { terms }: TermContext,
  id: TermId,
  ends: readonly End[] = ['controller', 'device'],
): number | undefined {
  for (const end of ends) {
    const entry = terms[id]?.[end]
    const read = entry && readQuantity(entry.text, { name: 'Time', ...MS })
    if (read?.ok) return read.value
  }
  return undefined
}

export const variantTerm = choiceTerm({
  id: 'variant',
  name: 'Variant',
  group: request,
  explain: 'How a message is framed: RTU by silence and a CRC, ASCII by letters and an LRC, TCP by a header.',
  words: { rtu: 'RTU', ascii: 'ASCII', tcp: 'TCP', 'rtu-over-tcp': 'RTU over TCP' },
  why: 'The other end takes the message for noise and stays silent.',
  applies: speaksModbus,
  alone: (value, end, context) => {
    if (onSerialLine(context) && end === 'device' && (value === 'tcp' || value === 'rtu-over-tcp'))
      return aloneApart(end, `${context.tags.device} sits on a serial line: it speaks RTU or ASCII.`, context, [
        { text: 'rtu' },
      ])
    return undefined
  },
  agree: (controller, device, context) =>
    context.passedOn && controller === 'tcp' && (device === 'rtu' || device === 'ascii')
      ? fits('The gateway turns one into the other')
      : undefined,
  source: 'Modbus over Serial Line V1.02, 2.5; Modbus Messaging on TCP/IP V1.0b, 3.1',
})

const timeout: Told = {
  id: 'timeout',
  name: 'Timeout',
  group: request,
  explain:
    'How long an end waits for an answer; across, how long the slowest answer takes, all tries of a gateway included.',
  relation: 'longer than the slowest answer',
  why: 'The answer comes when nobody waits for it any more, or is taken for the next one.',
  applies: on('modbus', 'command'),
  source: PRACTICE,
}
export const timeoutTerm = quantityTerm({
  ...timeout,
  field: { name: 'Timeout', ...MS, least: 1 },
  example: '1000 ms',
  agree: (waits, takes, context) =>
    waits > takes
      ? fits(`${quantityText(waits - takes, 'ms')} to spare`)
      : {
          ...apart(timeout, context, { controller: quantityText(waits, 'ms'), device: quantityText(takes, 'ms') }),
          fixes: [setTo('controller', String(Math.ceil(takes * 2)), quantityText(Math.ceil(takes * 2), 'ms'), context)],
        },
})

export const retriesTerm = quantityTerm({
  id: 'retries',
  name: 'Retries',
  group: request,
  explain: 'How often an unanswered question is asked again: by the controller, and by what passes it on.',
  relation: 'at one end only',
  why: 'Retries at both multiply: a dead unit holds the line for all of them.',
  severity: 'worth-knowing',
  applies: on('modbus', 'command'),
  field: { name: 'Retries', unit: '', least: 0, most: 100, whole: true },
  example: '1',
  agree: (here, there) =>
    here > 0 && there > 0
      ? fits(`They multiply: ${(1 + here) * (1 + there)} tries for a unit that is dead`)
      : here === there
        ? equal
        : fits(`${Math.max(here, there) + 1} tries in all`),
  source: PRACTICE,
})

const poll: Told = {
  id: 'poll-interval',
  name: 'Poll interval',
  group: request,
  explain: 'From one question to the next, as due; 0 is continuous. Across: the fastest that the device takes.',
  relation: 'no faster than the device takes',
  why: 'A device that is asked too fast answers late, or with a value that has not changed.',
  severity: 'wrong',
  applies: on('modbus', 'command'),
  source: PRACTICE,
}
export const pollIntervalTerm = quantityTerm({
  ...poll,
  field: { name: 'Poll interval', ...MS },
  example: '500 ms',
  alone: (value, end, context) => {
    const gap = context.terms.gap ? timeAt(context, 'gap') : undefined
    return end === 'controller' && gap !== undefined && value > 0 && gap >= value
      ? aloneApart(
          end,
          `A gap of ${quantityText(gap, 'ms')} ends a message, and the next question comes after ${quantityText(value, 'ms')}: messages run into each other.`,
          context,
          [{ text: String(Math.ceil(gap * 4)), shown: quantityText(Math.ceil(gap * 4), 'ms') }],
        )
      : undefined
  },
  agree: (asks, fastest, context) => {
    if (asks === 0)
      return fastest === 0
        ? equal
        : fits(`Continuous; ${context.tags.device} has a new value every ${quantityText(fastest, 'ms')}`)
    return asks >= fastest
      ? asks === fastest
        ? equal
        : fits('Slower than the device could')
      : apart(poll, context, { controller: quantityText(asks, 'ms'), device: quantityText(fastest, 'ms') })
  },
})

const update: Told = {
  id: 'update-interval',
  name: 'Update interval',
  group: request,
  explain: 'How often inputs and outputs are sent by themselves; across, the limits of the device.',
  relation: 'within both limits',
  why: 'A connection outside the limits is refused.',
  applies: on('cyclic'),
  asked: on('cyclic'),
  source: PRACTICE,
}
const UPDATE: QuantityField = { name: 'Update interval', ...MS, least: 0.1, most: 60_000 }
export const updateIntervalTerm = customTerm<Stretch>({
  ...update,
  relation: 'within both limits',
  example: '20 ms',
  parse: (entry, around) => {
    const read = readStretch(entry.text, UPDATE)
    // A single value of the device is its fastest.
    return read.ok && around?.end === 'device' && read.value.least === read.value.most
      ? { ok: true, value: { least: read.value.least, most: Infinity } }
      : read
  },
  format: ({ least, most }) =>
    least === most
      ? quantityText(least, 'ms')
      : most === Infinity
        ? `${quantityText(least, 'ms')} or slower`
        : `${least} to ${quantityText(most, 'ms')}`,
  agree: (asks, limits, context) => {
    if (asks.least >= limits.least && asks.most <= limits.most) return fits('Within the limits')
    const nearest = asks.least < limits.least ? limits.least : limits.most
    return {
      state: 'at-odds',
      why: `${context.tags.controller} asks for ${quantityText(asks.least, 'ms')}; ${context.tags.device} takes ${limits.most === Infinity ? `${quantityText(limits.least, 'ms')} or slower` : `${limits.least} to ${quantityText(limits.most, 'ms')}`}. ${update.why}`,
      fixes: [setTo('controller', String(nearest), quantityText(nearest, 'ms'), context)],
    }
  },
})

/** What ends or begins a message, as bytes. */
const framing = (id: 'prefix' | 'suffix', name: string, explain: string): TermDefinition<readonly number[]> => {
  const told: Told = {
    id,
    name,
    group: request,
    explain,
    why: 'The message is cut at the wrong place, or never ends.',
    applies: on('command'),
    asked: (context) => id === 'suffix' && context.terms.gap === undefined,
    source: PRACTICE,
  }
  const shown = (bytes: readonly number[]) =>
    bytes.length === 0 ? 'none' : bytes.map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ')
  return {
    ...told,
    relation: 'equal',
    severity: 'never',
    example: id === 'prefix' ? 'STX' : 'CR LF',
    parse: (entry) => readBytes(entry.text, name),
    format: shown,
    agree: (controller, device, context) =>
      shown(controller) === shown(device)
        ? equal
        : apart(told, context, { controller: shown(controller), device: shown(device) }),
  }
}
export const prefixTerm = framing(
  'prefix',
  'Prefix',
  'The bytes before a message, hexadecimal or by name: 02, STX, none.',
)
export const suffixTerm = framing('suffix', 'Suffix', 'The bytes after a message: 0D 0A, CR LF, none.')

const gap: Told = {
  id: 'gap',
  name: 'Gap',
  group: request,
  explain: 'The silence after which a message counts as ended, where no prefix or suffix says it.',
  relation: 'equal, shorter than the poll interval',
  why: 'A shorter gap cuts messages apart, a longer one joins them.',
  applies: on('command'),
  source: PRACTICE,
}
export const gapTerm = quantityTerm({
  ...gap,
  field: { name: 'Gap', ...MS, least: 0.1, most: 60_000 },
  example: '30 ms',
})

const answerLength: Told = {
  id: 'answer-length',
  name: 'Answer length',
  group: request,
  explain: 'The longest answer that the device gives, in bytes; at the controller, the buffer that takes it.',
  relation: 'buffer at least the answer',
  why: 'The end of the answer is cut off, or spoils what lies behind the buffer.',
  severity: 'wrong',
  applies: on('command'),
  source: PRACTICE,
}
export const answerLengthTerm = quantityTerm({
  ...answerLength,
  field: {
    name: 'Answer length',
    unit: 'bytes',
    units: { byte: 1, words: 2, word: 2 },
    least: 1,
    most: 65_535,
    whole: true,
  },
  example: '64 bytes',
  agree: atLeast('controller', answerLength, 'bytes'),
})

export const checksumTerm = choiceTerm({
  id: 'checksum',
  name: 'Checksum',
  group: request,
  explain: 'What guards a message against damaged bits.',
  words: { crc: 'CRC-16', bcc: 'BCC', lrc: 'LRC', xor: 'XOR', sum: 'sum', none: 'none' },
  also: { crc16: 'crc' },
  why: 'Every message counts as damaged.',
  applies: (context) => on('command')(context) || passedOn(context),
  source: PRACTICE,
})

export const duplicateMessagesTerm = choiceTerm({
  id: 'duplicate-messages',
  name: 'Duplicate messages',
  group: request,
  explain: 'Whether a message that came before already is ignored or taken again.',
  words: { ignored: 'ignored', taken: 'taken' },
  why: 'A repeated command is done twice, or a real second one is lost.',
  severity: 'wrong',
  applies: passedOn,
  source: PRACTICE,
})

export const embeddedAnswersTerm = choiceTerm({
  id: 'embedded-answers',
  name: 'Embedded answers',
  group: request,
  explain: 'Whether an acknowledgement may stand inside a message that goes the other way.',
  words: { yes: 'yes', no: 'no' },
  also: { on: 'yes', off: 'no' },
  why: 'An end that does not know them takes them for part of the message.',
  applies: passedOn,
  alone: (value, end, context) =>
    value === 'yes' && valueAt(duplexTerm, context, end) === 'half'
      ? aloneApart(end, 'At half duplex nothing is sent inside a message.', context, [{ text: 'no' }])
      : undefined,
  source: PRACTICE,
})

export const diagnosticsTerm = choiceTerm({
  id: 'diagnostics',
  name: 'Diagnostic requests',
  group: request,
  explain:
    'Whether the converter answers diagnostic requests itself or passes them on. They are passed on where a processor sits behind it, or at half duplex.',
  words: { executed: 'executed', 'passed-on': 'passed on' },
  why: 'Asked for the device, the converter answers for itself: it looks healthy while nothing is behind it.',
  severity: 'wrong',
  applies: passedOn,
  alone: (value, end, context) =>
    value === 'executed' && (valueAt(duplexTerm, context, end) === 'half' || context.roles?.device === 'controller')
      ? aloneApart(
          end,
          `${context.roles?.device === 'controller' ? 'A processor sits behind the converter' : 'At half duplex'}: diagnostic requests are passed on.`,
          context,
          [{ text: 'passed-on', shown: 'passed on' }],
        )
      : undefined,
  source: PRACTICE,
})
