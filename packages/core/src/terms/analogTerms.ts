import { ok, refusal, type Result } from '../units'
import { on } from './applying'
import { choiceTerm, customTerm, quantityTerm } from './makeTerm'
import { apart, equal, fits, type Told } from './relations'
import { quantityText, readStretch, readWord, type QuantityField, type Stretch } from './readers'
import type { TermContext, TermDefinition } from './term'

const words = 'words' as const
const PRACTICE = 'common practice, no source'

/** Signals, with their ends in mA or V. */
const signals = {
  '4-20-ma': { name: '4 to 20 mA', low: 4, high: 20, unit: 'mA' },
  '0-20-ma': { name: '0 to 20 mA', low: 0, high: 20, unit: 'mA' },
  '0-10-v': { name: '0 to 10 V', low: 0, high: 10, unit: 'V' },
  '0-5-v': { name: '0 to 5 V', low: 0, high: 5, unit: 'V' },
  '1-5-v': { name: '1 to 5 V', low: 1, high: 5, unit: 'V' },
  '10-v': { name: '-10 to 10 V', low: -10, high: 10, unit: 'V' },
} as const
type Signal = keyof typeof signals

const signalWords = Object.fromEntries(Object.entries(signals).map(([id, { name }]) => [id, name])) as Record<
  Signal,
  string
>

/** What half of the sender's signal reads as at the receiver, in percent of its range. */
export function halfReadsAs(sender: Signal, receiver: Signal): number | undefined {
  const [from, to] = [signals[sender], signals[receiver]]
  if (from.unit !== to.unit) return undefined
  return (100 * ((from.low + from.high) / 2 - to.low)) / (to.high - to.low)
}

export const signalTerm: TermDefinition<Signal> = choiceTerm({
  id: 'signal',
  name: 'Signal',
  group: words,
  explain: 'The current or voltage that carries the value: as the sensor gives it, and as the channel is set for it.',
  words: signalWords,
  also: { '4-20': '4-20-ma', '4..20ma': '4-20-ma', '0-20': '0-20-ma', '0-10': '0-10-v', '±10v': '10-v' },
  why: 'A wrong range still shows plausible numbers.',
  severity: 'wrong',
  applies: on('analog'),
  asked: on('analog'),
  agree: (channel, sensor, context) => {
    if (channel === sensor) return undefined
    const half = halfReadsAs(sensor, channel)
    const consequence =
      half === undefined
        ? 'A current into a voltage input, or the other way round: nothing right is read, and an input may be damaged.'
        : `Half of its signal reads as ${quantityText(half, '%')} instead of 50 %.`
    return {
      ...apart(signalTerm, context, { controller: signals[channel].name, device: signals[sensor].name }),
      why: `${context.tags.device} gives ${signals[sensor].name}; the channel is set for ${signals[channel].name}. ${consequence}`,
    }
  },
  source: 'NAMUR NE 43 for 4 to 20 mA; 2.5 V of 0 to 5 V reads 25 % on 0 to 10 V and 37.5 % on 1 to 5 V by calculation',
})

const NUMBER: QuantityField = { name: 'Range', unit: '', least: -1e9, most: 1e9 }

/** Reads `0 to 250 l/min`: two numbers and a unit that is compared letter for letter. */
export function readRange(text: string): Result<Stretch & { readonly unit: string }> {
  const typed = text.trim()
  const found = /^(.*?\d)\s*([^\d\s.,-][^\d]*)?$/.exec(typed)
  const read = readStretch(found?.[1] ?? typed, NUMBER)
  if (!read.ok) return read
  if (read.value.least === read.value.most)
    return refusal('range.one', `"${typed}" has one end only.`, typed, 'for example 0 to 250 l/min')
  return ok({ ...read.value, unit: found?.[2]?.trim() ?? '' })
}

const range: Told = {
  id: 'signal-range',
  name: 'Range',
  group: words,
  explain: 'What the lowest and the highest signal stand for, in the unit of the value.',
  why: 'The value is wrong by a factor, and right at one point: a check at a single point does not find it.',
  severity: 'wrong',
  applies: on('analog'),
  asked: on('analog'),
  source: PRACTICE,
}
export const signalRangeTerm: TermDefinition<Stretch & { readonly unit: string }> = {
  ...range,
  relation: 'equal',
  severity: 'wrong',
  example: '0 to 250 l/min',
  parse: (entry) => readRange(entry.text),
  format: ({ least, most, unit }) => `${least} to ${most}${unit && ` ${unit}`}`,
  agree: (channel, sensor, context) => {
    const text = ({ least, most, unit }: Stretch & { readonly unit: string }) =>
      `${least} to ${most}${unit && ` ${unit}`}`
    if (channel.unit !== sensor.unit && channel.unit !== '' && sensor.unit !== '')
      return apart(
        range,
        context,
        { controller: text(channel), device: text(sensor) },
        `In ${channel.unit} here, in ${sensor.unit} there. ${range.why}`,
      )
    if (channel.least !== sensor.least || channel.most !== sensor.most)
      return apart(range, context, { controller: text(channel), device: text(sensor) })
    return channel.unit === sensor.unit ? equal : fits('The unit is said at one end only')
  },
}

const counts: Told = {
  id: 'raw-counts',
  name: 'Raw counts',
  group: words,
  explain:
    'The whole numbers that stand for the lowest and highest signal: as the channel gives them, and as the program scales them.',
  why: 'The program scales other counts than the channel gives: every value is wrong by the same factor.',
  severity: 'wrong',
  applies: on('analog'),
  source: PRACTICE,
}
const COUNTS: QuantityField = { name: 'Raw counts', unit: '', least: -2_147_483_648, most: 4_294_967_295, whole: true }
export const rawCountsTerm: TermDefinition<Stretch> = {
  ...counts,
  relation: 'equal',
  severity: 'wrong',
  example: '400 to 2000',
  parse: (entry) => {
    const read = readStretch(entry.text, COUNTS)
    if (read.ok && read.value.least === read.value.most)
      return refusal('range.one', `"${entry.text.trim()}" has one end only.`, entry.text, 'for example 0 to 27648')
    return read
  },
  format: ({ least, most }) => `${least} to ${most}`,
  agree: (program, channel, context) =>
    program.least === channel.least && program.most === channel.most
      ? equal
      : apart(counts, context, {
          controller: `${program.least} to ${program.most}`,
          device: `${channel.least} to ${channel.most}`,
        }),
}

export const channelWordTerm: TermDefinition<number> = {
  ...quantityTerm({
    id: 'channel-word',
    name: 'Word that sets the channel',
    group: words,
    explain: 'Some channels are configured by an output word. What has to be written, and what stands there.',
    why: 'Until it is written the channel stays switched off, or as it was before.',
    severity: 'wrong',
    applies: (context: TermContext) => on('analog', 'cyclic', 'bus')(context),
    field: { name: 'Word', unit: '', least: 0, most: 65_535 },
    source: PRACTICE,
  }),
  example: '0x8100',
  parse: (entry) => readWord(entry.text, 'The word'),
  format: (value) => `0x${value.toString(16).toUpperCase().padStart(4, '0')}`,
}

const ratio: Told = {
  id: 'transformer-ratio',
  name: 'Current transformer',
  group: words,
  explain: 'Primary and secondary current: as they stand on the transformer, and as they are set in the meter.',
  why: 'Power and energy are wrong by the same factor as long as nobody looks.',
  severity: 'wrong',
  applies: ({ roles, exchange = 'modbus' }) => exchange === 'modbus' && roles?.device === 'meter',
  source: PRACTICE,
}
export const transformerRatioTerm = customTerm<Stretch>({
  ...ratio,
  relation: 'equal',
  example: '200/5',
  parse: (entry) => {
    const found = /^(\d+(?:[.,]\d+)?)\s*[/:]\s*(\d+(?:[.,]\d+)?)\s*A?$/.exec(entry.text.trim())
    const [, primary = '', secondary = ''] = found ?? []
    const value = { least: Number(secondary.replace(',', '.')), most: Number(primary.replace(',', '.')) }
    return found && value.least > 0 && value.most > 0
      ? ok(value)
      : refusal(
          'term.ratio',
          `"${entry.text.trim()}" is no ratio.`,
          entry.text,
          'primary / secondary, for example 200/5',
        )
  },
  format: ({ least, most }) => `${most}/${least} A`,
  agree: (here, there, context) => {
    if (here.most === there.most && here.least === there.least) return equal
    const factor = here.most / here.least / (there.most / there.least)
    if (factor === 1) return fits('The same factor; see that the secondary is the one that is wired')
    return apart(
      ratio,
      context,
      { controller: `${here.most}/${here.least}`, device: `${there.most}/${there.least}` },
      `${here.most}/${here.least} here, ${there.most}/${there.least} there: a factor of ${Number(factor.toPrecision(4))}. ${ratio.why}`,
    )
  },
})

export const pulsesPerUnitTerm = quantityTerm({
  id: 'pulses-per-unit',
  name: 'Pulses per unit',
  group: words,
  explain: 'How many pulses stand for one unit: on the device, and as the counter is scaled.',
  why: 'The counter counts right and shows something else.',
  severity: 'wrong',
  applies: on('modbus', 'analog', 'cyclic'),
  field: { name: 'Pulses', unit: '', least: 0.000001, most: 1e9 },
  example: '1000',
  source: PRACTICE,
})
