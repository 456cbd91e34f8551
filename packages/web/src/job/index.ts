export { claspFor, ladderFor } from './standing'
