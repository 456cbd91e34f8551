export { howWords, type Basis, type Evidence, type How } from './evidence'
export { factsOf, textFact, type EvidenceFact, type FactKind, type ReadingFact } from './facts'
export { judgedAgain, sayEvidence, sayEvidenceInFull, sources } from './say'
export { subjectKinds, type EvidenceSubject } from './subject'
