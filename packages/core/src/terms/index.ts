export { termCatalogue, termDefinition, termGroups } from './catalogue'
export { claspOf, type Clasp, type ClaspRow, type EndReading } from './clasp'
export { readPlanOf, type PlanGaps, type ReadPlan } from './readPlan'
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
