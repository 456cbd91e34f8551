export { beforeDownload, downloadTargets, type BeforeDownload } from './beforeDownload'
export { freeKindId } from './freeKindId'
export { type ModeReturn } from './modeReturns'
export { mirrorsOf } from './mirrors'
export {
  blankPath,
  type ImagePlan,
  type MemoryPlan,
  type MessagePlan,
  type PathTimes,
  type TablesTaken,
} from './pathPlan'
export { imageOfRow, pluggedInto, type PluggedModule } from './plugged'
export { accesses, accessWords, type Access } from './access'
export { addressPlanOf } from './addressPlan'
export { blankDevice, blankPort } from './blank'
export { busesOf } from './busesOf'
export { devicePlanOf, devicePlansOf } from './devicePlan'
export { evidenceAbout, evidenceGoingWith, evidenceOf } from './evidenceOf'
export { basisOf, handshakeLadderOf, type LadderOf } from './handshakeLadder'
export { deviceOf } from './deviceOf'
export { fromLineUp, handshakeTermsOf, isFromLineUp, termContextOf } from './handshakeTerms'
export { linePollsOf, type LinePoll, type LinePolls } from './linePolls'
export { reachedAt } from './reachedAt'
export { isSerial, lineOf, serialLineOf } from './serialLine'
export { withoutLoose } from './loose'
export { lineMedia, requestKinds, schools } from './media'
export type * from './model'
export { requestState, requestStateWords, shareAnswer, waitsFor } from './requests'
export * from './rows'
export { claspFor, ladderFor, standingFor } from './standing'
export { hasProven } from './hasProven'
export { controllerCyclicOf, cyclicExchangeOf, type ControllerCyclic } from './cyclicOf'
export { legsOf, type Leg } from './legs'
export { deviationsFrom, profileOf, putKindOn, rowsAtDefault, type Deviation } from './profiles'
export { pendingTermsOf, type PendingDevice, type PendingTerm } from './pendingTerms'
export { sayAllAsPlanned, sayStanding, type Said } from './sayStanding'
export { standingWords, type TermStanding } from './standingWords'
export {
  holderOf,
  meansTheSame,
  type EndStanding,
  type RowStanding,
  type Seen,
  type StandingState,
} from './termStandings'
export { individualTerms, termMatrixOf, type MatrixCell, type MatrixRow, type TermMatrix } from './termMatrix'
export { schoolOf, settingOf } from './settings'
