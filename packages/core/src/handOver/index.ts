export { asLeftRecord, type AsLeftRecord } from './asLeft'
export { asLeftTable } from './asLeftTable'
export { isOpen, ledgerBlocks, ledgerOf, type LedgerEntry } from './ledger'
export { laddersOf, readinessOf, type Readiness, type RungReadiness } from './readiness'
