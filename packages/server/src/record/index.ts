export { readingEvidenceOf } from './judgeReading'
