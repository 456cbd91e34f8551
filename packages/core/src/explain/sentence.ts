import { byteOrders, formatNumber, type ByteOrder } from '../values'
import { sameOrder, typeName } from './formats'
import type { Question } from './question'
import type { Explanation } from './search'
import type { RankedExplanation } from './together'

const numerals = ['', 'one register', 'two registers', 'three registers', 'four registers']

/** What has to be done to the words, from the order that is planned to the one that fits. */
function turnsOf(planned: ByteOrder, fitting: ByteOrder, registers: number): readonly string[] {
  const [from, to] = [byteOrders[sameOrder(planned, registers)], byteOrders[sameOrder(fitting, registers)]]
  const turns: string[] = []
  if (from.wordsReversed !== to.wordsReversed)
    turns.push(
      to.wordsReversed === 'halves' || from.wordsReversed === 'halves'
        ? `take the words as ${to.name}`
        : 'swap the words',
    )
  if (from.bytesSwapped !== to.bytesSwapped) turns.push('swap the bytes of each word')
  return turns
}

/** The steps of an explanation, as instructions: `read one register later`, `swap the words`. */
export function stepsOf(question: Question, each: Explanation): readonly string[] {
  const { shift, format, aspects, factor } = each
  const steps: string[] = []
  if (aspects.includes('shift'))
    steps.push(`read ${numerals[Math.abs(shift)] ?? `${Math.abs(shift)} registers`} ${shift > 0 ? 'later' : 'earlier'}`)
  if (aspects.includes('type'))
    steps.push(format.type === 'bool' ? `take bit ${format.bit ?? 0}` : `take it as ${typeName(format.type)}`)
  if (aspects.includes('order')) steps.push(...turnsOf(question.plan.format.order, format.order, each.registers))
  if (aspects.includes('scale')) steps.push(factor.say)
  return steps
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/**
 * An explanation in one sentence, with the value it gives at the last sample.
 * @example 'Read two registers later and swap the words: 12.41 l/min'
 */
export function sayExplanation(question: Question, each: Explanation, decimals?: number): string {
  const steps = stepsOf(question, each)
  const last = steps.at(-1) ?? 'read it as planned'
  const text = steps.length > 1 ? `${steps.slice(0, -1).join(', ')} and ${last}` : last
  const value = each.values.at(-1)
  const shown =
    value === undefined ? '' : `: ${formatNumber(value, decimals)}${question.unit ? ` ${question.unit}` : ''}`
  return `${capital(text)}${shown}`
}

/** How sure an explanation is. */
export type Sureness = 'sure' | 'likely' | 'weak'

/**
 * By the chance that one as simple fits registers which mean something else: one in five hundred, one in ten; the limits
 * are a choice of this program. While others fit with one change more, nothing is sure.
 */
export const surenessOf = ({ accidental, rivals }: Pick<RankedExplanation, 'accidental' | 'rivals'>): Sureness =>
  accidental > 0.1 ? 'weak' : accidental <= 0.002 && rivals === 0 ? 'sure' : 'likely'
