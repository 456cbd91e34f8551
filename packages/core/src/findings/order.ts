import { severities, type Finding } from './finding'

/** Unsafe first, then what will not work, then what is worth knowing; otherwise the order given stays. */
export function bySeverity(findings: readonly Finding[]): readonly Finding[] {
  return [...findings].sort((a, b) => severities[a.severity].rank - severities[b.severity].rank)
}
