export { otherEnd } from './around'
export { termCatalogue, termDefinition, termGroups } from './catalogue'
export { claspOf, type Clasp, type ClaspRow, type EndReading } from './clasp'
export {
  readPlanOf,
  type OwnPlace,
  type PlanGaps,
  type ReadPlan,
  type SerialWay,
  type TcpWay,
  type Way,
} from './readPlan'
export { termIds } from './term'
export type {
  Agreement,
  Around,
  End,
  HandshakeTerms,
  TermContext,
  TermDefinition,
  TermEntry,
  TermFix,
  TermId,
} from './term'
