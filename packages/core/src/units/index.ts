export type { Brand } from './brand'
export { instant, milliseconds, type Instant, type Milliseconds } from './quantities'
export { ok, refusal, refuse, type Offer, type Refusal, type Result } from './result'
export { parseWholeNumber, type WholeNumberField } from './wholeNumber'
