export { otherEnd } from './around'
export { termCatalogue, termDefinition, termGroups } from './catalogue'
export { claspOf, type Clasp, type ClaspRow, type EndReading } from './clasp'
export { readPlanOf, type OwnPlace, type PlanGaps, type ReadPlan, type SerialWay, type Way } from './readPlan'
export { exchangeOf, exchanges, type Exchange } from './exchanges'
export { readSettingsText, type SettingsText, type TextSetting } from './settingsText'
export { neededFor } from './bitTypes'
export { readSize } from './cyclicTerms'
export { readQuantity } from './readers'
export { rateText } from './busTerms'
export { longestLine } from './lineTerms'
export { mirrored, readMirror, type Mirror, type MirrorPart } from './mirror'
export { termIds } from './termIds'
export type {
  Around,
  End,
  HandshakeTerms,
  TermContext,
  TermEntry,
  TermGroup,
  TermId,
  TermLine,
  TermPlace,
} from './term'
