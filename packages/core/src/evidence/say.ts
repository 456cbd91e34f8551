import { wordText } from '../modbus'
import { judgePath, type Observation, type PathJudgement } from '../path'
import { instant } from '../units'
import { formatNumber, toleranceText } from '../values'
import { factsOf, type EvidenceFact, type PointFact, type ReadingFact } from './facts'

type Seen = readonly EvidenceFact[]

const blankPoint: PointFact = { kind: 'point', tag: '', quantity: 'Value', unit: '', decimals: 2 }
const pointIn = (facts: Seen): PointFact => factsOf(facts, 'point')[0] ?? blankPoint

const shown = (value: number | null, { decimals, unit }: PointFact): string =>
  value === null ? 'no value' : `${formatNumber(value, decimals)} ${unit}`.trim()

/** A reading as what is followed along the path. */
const observationOf = (fact: ReadingFact): Observation => ({
  at: fact.place,
  words: fact.words ?? undefined,
  value: fact.value ?? undefined,
  seen: fact.at === null ? undefined : instant(fact.at),
  source: fact.source,
  silence: fact.value === null ? 'No value.' : '',
})

/** Judges readings again from what was recorded; `undefined` where nothing was read, or nothing to compare with. */
export function judgedAgain(facts: Seen): PathJudgement | undefined {
  const readings = factsOf(facts, 'reading')
  const [reference] = factsOf(facts, 'reference')
  const [first] = readings
  if (!first || !reference) return undefined
  return judgePath({
    hops: readings.map(observationOf),
    reference: reference.value,
    tolerance: reference.tolerance,
    unit: pointIn(facts).unit,
    format: first.format,
    scale: first.scale ?? 1,
    offset: first.offset ?? 0,
  })
}

/** Evidence in one sentence. */
export function sayEvidence(facts: Seen): string {
  const [reference] = factsOf(facts, 'reference')
  const readings = factsOf(facts, 'reading')
  if (readings.length > 0) {
    const point = pointIn(facts)
    const hops = readings.map((fact) => `${fact.place} ${shown(fact.value, point)}${typedMark(fact)}`).join(', ')
    const held = reference
      ? `; reference ${shown(reference.value, point)} ${toleranceText(reference.tolerance, point.unit)}`
      : ''
    return `${point.quantity}: ${hops}${held}. ${judgedAgain(facts)?.say ?? ''}`.trim()
  }
  const [asked] = factsOf(facts, 'asked')
  if (asked) return sayAsked(facts, asked.at, asked.answered)
  const terms = factsOf(facts, 'term')
  if (terms.length > 0) return `All ${terms.length} terms agree and are in force at both ends.`
  const [text] = factsOf(facts, 'text')
  if (text) return text.text
  return sayEvidenceInFull(facts)[0] ?? ''
}

/** What a person typed was not read: that is told with it wherever it stands. */
const typedMark = ({ source }: ReadingFact) => (source === 'typed' ? ' (typed)' : '')

function sayAsked(facts: Seen, at: string, answered: boolean): string {
  if (!answered) return `Not reached at ${at || 'its planned address'}: ${factsOf(facts, 'step').at(-1)?.what ?? ''}`
  const named = factsOf(facts, 'identity')
    .map(({ name, text }) => `${name} ${text}`)
    .join(', ')
  return `Answered at ${at}${named === '' ? '' : `: ${named}`}.`
}

/** Every fact as a line, for who wants to see what a sentence is made of. */
export function sayEvidenceInFull(facts: Seen): readonly string[] {
  const point = pointIn(facts)
  const lines = facts.flatMap((fact) => sayFact(fact, point))
  const apart = judgedAgain(facts)?.apart
  return apart === undefined ? lines : [...lines, `${(apart / 1000).toFixed(1)} s between the earliest and the latest`]
}

/** How a value was come by, in words. */
export const sources: Readonly<Record<ReadingFact['source'], string>> = {
  live: 'read live',
  held: 'read live and held',
  typed: 'typed',
}

/** Hours, minutes and seconds of the clock on the wall. */
function clockText(at: number): string {
  const time = new Date(at)
  return [time.getHours(), time.getMinutes(), time.getSeconds()].map((part) => String(part).padStart(2, '0')).join(':')
}

function sayFact(fact: EvidenceFact, point: PointFact): readonly string[] {
  switch (fact.kind) {
    case 'text':
      return [fact.text]
    case 'point':
      return []
    case 'reading': {
      const words = fact.words ? ` words ${fact.words.map(wordText).join(' ')}` : ''
      const at = fact.at === null ? '' : ` at ${clockText(fact.at)}`
      return [`${fact.place}: ${shown(fact.value, point)}${words}, ${sources[fact.source]}${at}`]
    }
    case 'reference':
      return [`reference ${shown(fact.value, point)}, ${fact.origin || 'origin not named'}`]
    case 'step':
      return [`${fact.step}: ${fact.what}`]
    case 'asked':
      return fact.at === '' ? [] : [`asked at ${fact.at}`]
    case 'identity':
      return [`${fact.name}: ${fact.text}`]
    case 'term':
      return [`${fact.term}: ${fact.state}`]
    case 'lamp':
      return [`${fact.lamp}: ${fact.pattern}`]
    case 'file':
      return [`${fact.name}, ${fact.bytes} bytes, SHA-256 ${fact.sha256}`]
    case 'quantity':
      return [`${fact.name}: ${formatNumber(fact.value)} ${fact.unit}`.trim() + ofInstrument(fact.instrument)]
  }
}

const ofInstrument = (instrument: string) => (instrument === '' ? '' : `, by ${instrument}`)
