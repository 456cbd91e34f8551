/** How a version must stand to another one. */
export type VersionRelation = 'equal' | 'at-least' | 'not-above' | 'any'

/**
 * Compares versions as versions: number by number, so that 1.10 is above 1.9. Letters after the numbers count as text,
 * and a version that goes on is above one that ends: 2.1 is below 2.1.1, `3.0b` above `3.0a`.
 *
 * @returns below 0, 0, or above 0, as for sorting
 * @source common practice, no source; numbers compared as in SemVer 2.0.0 clause 11
 */
export function compareVersions(a: string, b: string): number {
  const [left, right] = [partsOf(a), partsOf(b)]
  for (let k = 0; k < Math.max(left.length, right.length); k += 1) {
    const [x, y] = [left[k], right[k]]
    if (x === undefined || y === undefined) return x === y ? 0 : x === undefined ? -1 : 1
    const order = comparePart(x, y)
    if (order !== 0) return order
  }
  return 0
}

const partsOf = (version: string): readonly string[] =>
  version
    .trim()
    .replace(/^v(er(sion)?)?\.?\s*/i, '')
    .match(/\d+|[a-z]+/gi) ?? []

function comparePart(a: string, b: string): number {
  const [numberA, numberB] = [/^\d/.test(a), /^\d/.test(b)]
  if (numberA && numberB) return Math.sign(Number(a) - Number(b))
  if (numberA !== numberB) return numberA ? 1 : -1
  return Math.sign(a.toLowerCase().localeCompare(b.toLowerCase()))
}

/** Whether a version that was found stands in the relation that is asked for. */
export function versionFits(found: string, relation: VersionRelation, asked: string): boolean {
  const order = compareVersions(found, asked)
  switch (relation) {
    case 'equal':
      return order === 0
    case 'at-least':
      return order >= 0
    case 'not-above':
      return order <= 0
    case 'any':
      return true
  }
}
