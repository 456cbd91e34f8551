import { addressTerm } from './addressTerm'
import { countTerm } from './countTerm'
import { dataTypeTerm } from './dataTypeTerm'
import { firstRegisterTerm } from './firstRegisterTerm'
import { functionCodeTerm } from './functionCodeTerm'
import { lineSettingsTerm } from './lineSettingsTerm'
import { maskTerm } from './maskTerm'
import { portTerm } from './portTerm'
import { scaleTerm } from './scaleTerm'
import type { TermDefinition, TermId } from './term'
import { unitIdTerm } from './unitIdTerm'
import { wordOrderTerm } from './wordOrderTerm'

/** Every term, in the order in which the clasp shows them. A term's value type is known only inside its definition. */
export const termCatalogue = [
  addressTerm,
  maskTerm,
  portTerm,
  unitIdTerm,
  lineSettingsTerm,
  functionCodeTerm,
  firstRegisterTerm,
  countTerm,
  dataTypeTerm,
  wordOrderTerm,
  scaleTerm,
] as readonly unknown[] as readonly TermDefinition<unknown>[]

export const termGroups = {
  reach: { name: 'To reach it', speaks: 'address and connection' },
  request: { name: 'In the request', speaks: 'what is asked for' },
  words: { name: 'In the words', speaks: 'how the answer is read' },
} as const

/** @throws RangeError for an id that is not in the catalogue */
export function termDefinition(id: TermId): TermDefinition<unknown> {
  const found = termCatalogue.find((term) => term.id === id)
  if (!found) throw new RangeError(`No such term: ${id}`)
  return found
}
