export { bringUpJobOf, groupOf, isGroupLive, portOf, presentOf } from './bringUpJobOf'
export { fieldNames, fieldsOf, filled, isTypeable, plannedOf, unknownFields, wayIn, type StepFields } from './fields'
export { laptopTexts, type LaptopText } from './laptopTexts'
export {
  blankWalk,
  latestFact,
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
} from './record'
export {
  checkIds,
  phases,
  recordIds,
  runFits,
  runFor,
  stepKinds,
  type Act,
  type CheckId,
  type OwnRun,
  type Phase,
  type Protects,
  type RecordId,
  type RunFacts,
  type RunStep,
  type StepKind,
} from './run'
export { consequencesOf, heldBackBy, isParked, refusedNote, type Consequences } from './settle'
export { shippedRuns } from './shipped'
export { LEAD_SETTING, leadOut, type Held } from './wholePlant'
export { isSettled, runOfDevice, runsOf, walkOf, type Stop, type WalkStep } from './walk'
export { actionKey, laptopHost } from './walk'
export {
  laptopIsIn,
  nothingAnswers,
  type Cause,
  type LaptopAdapter,
  type LaptopState,
  type Seen,
} from './nothingAnswers'
export {
  judgeSweep,
  MOST_HOSTS,
  sweepBounds,
  sweepSeconds,
  pictureDifferences,
  sweepVerdicts,
  type Picture,
  type PictureDifference,
  type SweepAnswer,
  type SweepLine,
  type SweepVerdict,
} from './sweep'
export { planWalk, sequentialFinish, tasksOf, type LeftOut, type WalkPlan } from './planWalk'
export { devicesOfAnswers, nearSubnets, type NearSubnet } from './rowsOfAnswers'
