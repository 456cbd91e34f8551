import { foreignCharacterIn } from '@calm/core/units'
import { pathText, type Problem } from './problem'

/** Deeper than any file or request of ours. */
const MOST_DEPTH = 40
/** More than these help nobody. */
const MOST_PROBLEMS = 20
/** Fields that every object of the language has by itself. */
const FORBIDDEN: readonly string[] = ['__proto__', 'constructor', 'prototype']

type Path = readonly (string | number)[]

/** One value of the content, with the way to it as links, so that a path is only built where it is told. */
interface Place {
  readonly value: unknown
  readonly key: string | number
  readonly parent: Place | undefined
  readonly depth: number
}

/**
 * What is wrong with JSON content before anybody asks what it means: texts and field names with control characters or
 * halves of characters, nesting without end, field names that the language keeps for itself. Goes through it without
 * recursion, so that no depth can end the program.
 */
export function textProblems(content: unknown): readonly Problem[] {
  const problems: Problem[] = []
  /** Names that were looked at: the rows of a list have the same ones. */
  const plainKeys = new Set<string>()
  const rest: Place[] = [{ value: content, key: '', parent: undefined, depth: 0 }]
  for (let place = rest.pop(); place && problems.length < MOST_PROBLEMS; place = rest.pop()) {
    const { value, depth } = place
    if (typeof value === 'string') {
      const foreign = foreignCharacterIn(value)
      if (foreign !== undefined) problems.push(foreignAt(pathTo(place), foreign))
    } else if (typeof value === 'object' && value !== null && !(value instanceof Uint8Array)) {
      if (depth >= MOST_DEPTH) return [...problems, tooDeep(pathTo(place))]
      for (const key of Object.keys(value)) {
        const problem = Array.isArray(value) || plainKeys.has(key) ? undefined : keyProblem(key, place)
        if (problem) problems.push(problem)
        else plainKeys.add(key)
        const inner = (value as Record<string, unknown>)[key]
        if (typeof inner === 'string' || typeof inner === 'object')
          rest.push({ value: inner, key: Array.isArray(value) ? Number(key) : key, parent: place, depth: depth + 1 })
      }
    }
  }
  return problems
}

function pathTo(place: Place): Path {
  const path: (string | number)[] = []
  for (let at: Place | undefined = place; at?.parent; at = at.parent) path.unshift(at.key)
  return path
}

const foreignAt = (path: Path, character: string): Problem => ({
  what: `The text holds a control character or half a character, ${character}.`,
  where: pathText(path),
  expected: 'characters that can be read',
  found: character,
})

const tooDeep = (path: Path): Problem => ({
  what: 'This is nested too deeply.',
  where: `${pathText(path.slice(0, 4))}…`,
  expected: `at most ${MOST_DEPTH} levels`,
  found: 'more',
})

function keyProblem(key: string, place: Place): Problem | undefined {
  const foreign = foreignCharacterIn(key)
  if (foreign !== undefined) return foreignAt(pathTo(place), foreign)
  if (!FORBIDDEN.includes(key)) return undefined
  return {
    what: `There is no field "${key}" here.`,
    where: pathText(pathTo(place)),
    expected: 'only the documented fields',
    found: key,
  }
}
