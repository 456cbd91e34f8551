export { AwakeTimer } from './awakeTimer'
export { rtuChannel, tcpChannel, type Channel } from './channel'
export { explainOutcome, type Outcome } from './outcome'
export { ExchangePool } from './pool'
