import { pathText, type Problem } from './problem'

/** More than these help nobody. */
const MOST_PROBLEMS = 20

interface Level {
  readonly keys: Set<string> | undefined
  place: string | number
}

/**
 * Fields that stand twice in one object of a JSON text. Reading JSON keeps the last one and loses the other silently,
 * so it is looked for in the text itself.
 * @param text JSON that was read without complaint
 * @source RFC 8259 4: names within an object should be unique; what happens otherwise is not foreseeable
 */
export function duplicateKeys(text: string): readonly Problem[] {
  const problems: Problem[] = []
  const levels: Level[] = []
  const token = /"(?:[^"\\]|\\.)*"(\s*:)?|[{}[\],]/g
  for (let found = token.exec(text); found && problems.length < MOST_PROBLEMS; found = token.exec(text)) {
    const [part, colon] = found
    const level = levels.at(-1)
    if (part === '{') levels.push({ keys: new Set(), place: '' })
    else if (part === '[') levels.push({ keys: undefined, place: 0 })
    else if (part === '}' || part === ']') levels.pop()
    else if (part === ',') {
      if (level && typeof level.place === 'number') level.place += 1
    } else if (colon !== undefined && level?.keys) {
      const written = part.slice(0, part.length - colon.length)
      const key = written.includes('\\') ? (JSON.parse(written) as string) : written.slice(1, -1)
      level.place = key
      if (level.keys.has(key)) {
        const where = pathText(levels.map((each) => each.place))
        problems.push({ what: `The field "${key}" stands twice.`, where, expected: 'each field once', found: key })
      }
      level.keys.add(key)
    }
  }
  return problems
}
