export { asLeftRecord } from './asLeft'
export { csvCell, csvText } from './csv'
export { readingEvidenceOf } from './judgeReading'
