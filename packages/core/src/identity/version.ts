/** How a version must stand to another one. */
export type VersionRelation = 'equal' | 'at-least' | 'not-above' | 'any'

/** Words after a number that stand for something not finished yet, the earliest first. */
const UNFINISHED = ['dev', 'alpha', 'beta', 'pre', 'rc'] as const

/** A version taken apart: whole numbers, and after each of them a letter, or a word for what is not finished yet. */
interface VersionPart {
  readonly number: number
  /** Position among the letters, 0 for none; below 0 for what is earlier than the version without it. */
  readonly tail: number
}

/**
 * Compares versions as versions: number by number as whole numbers, so that 2.10 is above 2.9; a missing number is 0;
 * one letter is later (`3.0b` above `3.0a` above `3.0`); `-beta` and `-rc` are earlier than the version without.
 *
 * @returns below 0, 0, or above 0, as for sorting
 * @source common practice, no source; numbers and what is not finished as in SemVer 2.0.0 clause 11
 */
export function compareVersions(a: string, b: string): number {
  const [left, right] = [partsOf(a), partsOf(b)]
  for (let k = 0; k < Math.max(left.length, right.length); k += 1) {
    const [x, y] = [left[k] ?? NOTHING, right[k] ?? NOTHING]
    if (x.number !== y.number) return Math.sign(x.number - y.number)
    if (x.tail !== y.tail) return Math.sign(x.tail - y.tail)
  }
  return 0
}

/** Whether two versions differ only by what is not finished yet: makers do not agree on the order of these. */
export const hangsOnUnfinished = (a: string, b: string): boolean =>
  compareVersions(a, b) !== 0 && compareVersions(finishedPart(a), finishedPart(b)) === 0

const finishedPart = (version: string): string =>
  version.replace(new RegExp(`[-. ]?(${UNFINISHED.join('|')})(?![a-z]).*$`, 'i'), '')

const NOTHING: VersionPart = { number: 0, tail: 0 }

function partsOf(version: string): readonly VersionPart[] {
  const words =
    version
      .trim()
      .replace(/^v(er(sion)?)?\.?\s*/i, '')
      .match(/\d+|[a-z]+/gi) ?? []
  const parts: VersionPart[] = []
  for (const word of words) {
    const last = parts.at(-1)
    if (/^\d/.test(word)) parts.push({ number: Number(word), tail: 0 })
    else if (last?.tail === 0) parts[parts.length - 1] = { ...last, tail: tailOf(word.toLowerCase()) }
    else parts.push({ number: 0, tail: tailOf(word.toLowerCase()) })
  }
  return parts
}

/** What a word after a number is worth: `a` is 1, `b` 2; longer words go by their letters, all below the next one. */
function tailOf(word: string): number {
  const unfinished = UNFINISHED.findIndex((each) => each === word)
  if (unfinished >= 0) return unfinished - UNFINISHED.length
  return [...word].reduce((sum, letter, k) => sum + (letter.charCodeAt(0) - 96) / 27 ** k, 0)
}

/** What stands where no version was written down. @source common practice, no source */
const NO_VERSION = /^(|-+|\?+|n\.?\/?a\.?|none|no|nil|unknown|not known|tbd|tba|todo|x+|\.+)$/i

/** Whether a text names a version at all: it has a number, or it is one letter, as hardware revisions are. */
export const isVersion = (text: string): boolean =>
  !NO_VERSION.test(text.trim()) && (/\d/.test(text) || /^(rev(ision)?\.?\s*)?[a-z]$/i.test(text.trim()))

/**
 * Whether a version that was found stands in the relation that is asked for. Both have to be versions: see `isVersion`.
 */
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
