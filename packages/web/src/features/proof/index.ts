export { ProofPage } from './proofPage'
