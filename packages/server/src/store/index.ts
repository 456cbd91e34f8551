export * from './change'
export { addRow, applyChangeList, removeRow, restoreRow, setRow } from './lineUp'
export { CHAIN_START, firstBroken, hashOf } from './chain'
export { readJob } from './readJob'
export { addDecision, addEvidence, type EvidenceContent } from './record'
export { readLog, type JobLog } from './log'
export { isContradiction, isDiskFull, notFound, Refused, refusedBecause } from './refusals'
export { REVISION_HEADER, revisionOf } from './revision'
export { Store, type Tx } from './store'
export { writeNewJob } from './writeJob'
export {
  addFact,
  addRun,
  addTemporary,
  keep,
  putBack,
  putWalk,
  readWalk,
  removeRun,
  reopenStep,
  requireNotHeld,
  saveWait,
  settleStep,
  type StepPlace,
} from './walk'
