export { checkVerdicts, type CheckResult, type CheckVerdict } from './model'
export { controllerSees, nodesListed, relayFirmware, servedVerified } from './lists'
export { judgeBefore, judgeReturned, type BeforeWhen } from './pictures'
export {
  judgeAnswers,
  judgeGone,
  judgeLegs,
  judgeLaptop,
  judgeReached,
  judgeText,
  judgeRow,
  judgeUnits,
  type IdentitySeen,
  type LegsSeen,
  type SeenAt,
} from './seen'
export { showsPlanned } from './shown'
export { threeFacts, type ThreeFacts } from './threeFacts'
export { backups, firmware, identified, macKnown, namesEqual, orderCode, rackCodes, type Written } from './written'
