import type { Finding } from './finding'

/**
 * Findings gathered by what they are about: of two ports at one address each is found, and both findings are one matter.
 * The first of a matter speaks for all, with every other row in its `others`.
 */
export function byMatter(findings: readonly Finding[]): readonly (readonly [Finding, ...Finding[]])[] {
  const matters = new Map<string, [Finding, ...Finding[]]>()
  for (const finding of findings) {
    const rows = [finding.subject, ...finding.others].map(({ kind, id }) => `${kind} ${id}`).sort()
    const key = [finding.rule, finding.found, ...rows].join('\n')
    const known = matters.get(key)
    if (known) known.push(finding)
    else matters.set(key, [finding])
  }
  return [...matters.values()]
}
