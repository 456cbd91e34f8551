export { asLeftRecord } from './asLeft'
export { readingEvidenceOf } from './judgeReading'
