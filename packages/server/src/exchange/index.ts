export { AwakeTimer } from './awakeTimer'
export { Exchange, type ExchangeOptions } from './exchange'
export { explainOutcome, type Outcome, type Trace } from './outcome'
export { ExchangePool, RESPONSE_TIMEOUT_MS } from './pool'
