export { addressPlanOf } from './addressPlan'
export { blankDevice, blankPort } from './blank'
export { busesOf } from './busesOf'
export { devicePlanOf, serialWayOf } from './devicePlan'
export { evidenceAbout, evidenceGoingWith, evidenceOf } from './evidenceOf'
export { basisOf, handshakeLadderOf, type LadderOf } from './handshakeLadder'
export { deviceOf, fromLineUp, handshakeTermsOf, isFromLineUp, reachedAt, termContextOf } from './handshakeTerms'
export { withoutLoose } from './loose'
export { lineMedia, requestKinds, schools, type SchoolFacts } from './media'
export type * from './model'
export {
  requestState,
  requestStateWords,
  shareAnswer,
  waitsFor,
  type RequestState,
  type SharedAnswer,
} from './requests'
export * from './rows'
export { claspFor, ladderFor } from './standing'
export { schoolOf, settingOf, type SettingOf } from './settings'
