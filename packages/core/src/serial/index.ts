export { adviceFor, silentOnes, type LineAdvice } from './advice'
export { damagedChance, lateness, underDamage, type Lateness, type PollUnderDamage } from './damage'
export { roundCurves, type RoundCurve } from './curves'
export { retrySchools, unitsToMove, type RetrySchool } from './schools'
export { judgeFormats, type FormatFinding, type FormatVerdict, type Variant } from './formats'
export { asciiSizes, rtuSizes, type FrameSizes } from './frames'
export {
  ageOf,
  exchangeMs,
  loadOf,
  pollMs,
  silentTryMs,
  usualTiming,
  type LineLoad,
  type LineTiming,
  type Poll,
  type ValueAge,
} from './polls'
export { lineSettingsText, readLineSettings, usualRates, type Parity, type SerialSettings } from './settings'
export { simulate, type Simulated } from './simulate'
export { characterBits, characterMs, frameGapMs, insideGapMs, wireMs } from './times'
