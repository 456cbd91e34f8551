export { hasReturned } from './hasReturned'
export { bringUpJobOf } from './bringUpJobOf'
export { begunKey, begunRuns, openRuns } from './onDemand'
export { factoryOf, isGroupLive, portOf, presentOf } from './present'
export { namePlacesOf } from './names'
export { nearestWithAddress } from './relay'
export { asItStands, changedSince, checkFacts, restsOf, type CheckFacts, type Rests } from './rests'
export { fieldsOf, filled, isTypeable, plannedOf, unknownFields, wayIn } from './fields'
export { laptopTexts } from './laptopTexts'
export {
  blankWalk,
  latestFact,
  NAME_IN,
  PLUG_SHOWS,
  TEXT_ON_TAG,
  textArrived,
  startUpOf,
  startUpSetting,
  standings,
  usualSettings,
  withParkedWaits,
  type OrderSettings,
  type SettingFact,
  type Standing,
  type StepRecord,
  type TemporaryThing,
  type WaitRecord,
  type WalkRecord,
  watchedAddress,
} from './record'
export {
  checkIds,
  phases,
  recordIds,
  runFits,
  runFitsNow,
  runFor,
  runPlaces,
  settledBy,
  stepKinds,
  type Act,
  type CheckId,
  type RunFacts,
  type RunStep,
  type StepKind,
} from './run'
export { consequencesOf, heldBackBy, isByReason, refusedNote } from './settle'
export { shippedRuns } from './shipped'
export { LEAD_SETTING, leadOut } from './lead'
export { type Held } from './wholePlant'
export {
  isSettled,
  laptopHost,
  placeOf,
  runOfDevice,
  runsOf,
  walkOf,
  type StepInMenu,
  type Stop,
  type WalkStep,
} from './walk'
export {
  laptopHasLinkTo,
  laptopIsIn,
  laptopSees,
  nothingAnswers,
  type Cause,
  type LaptopState,
  type Seen,
} from './nothingAnswers'
export {
  judgeSweep,
  MOST_HOSTS,
  sweepBounds,
  sweepSeconds,
  sweepVerdicts,
  type SweepAnswer,
  type SweepLine,
} from './sweep'
export {
  comparePictures,
  nameKey,
  valueKey,
  readFieldList,
  type FieldDevice,
  type Picture,
  type PictureComparison,
  type PicturedValue,
  type PictureDifference,
} from './picture'
export { knownFor } from './known'
export { meanwhile } from './meanwhile'
export { planWalk, tasksOf, type LeftOut, type WalkPlan, usualTime } from './planWalk'
export { devicesOfAnswers, nearSubnets, type NearSubnet } from './rowsOfAnswers'
export { waitsSetOffBy } from './setOff'
export { breakerOf, groupOf } from './breaker'
export { looksAt } from './looksAt'
export {
  devicesAgainst,
  LISTED_DEVICES,
  listedNodesOf,
  listKept,
  nodesAgainst,
  servedBy,
  type ListedRow,
} from './listed'
export { markedAgainst, PROJECT_CODE, rackOf, readRackList, type Marked, type RackSlot } from './rack'
