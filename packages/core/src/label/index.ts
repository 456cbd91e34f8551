export { greyOf, turned, type Grey } from './grey'
export { labelFields, readingsOf, type LabelField, type LabelPlan, type LabelReading } from './meaning'
export { readCodes, type Code, type CodeFormat } from './readCodes'
