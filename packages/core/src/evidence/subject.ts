/** What evidence is about. */
export type SubjectKind = 'job' | 'network' | 'line' | 'device' | 'port' | 'handshake' | 'point'

export const subjectKinds: readonly SubjectKind[] = ['job', 'network', 'line', 'device', 'port', 'handshake', 'point']

/** One thing of the job that was looked at. */
export interface EvidenceSubject {
  readonly kind: SubjectKind
  readonly id: string
}
