import { ok, parseWholeNumber, refusal, type Result } from '../units'

/** A blank cell leaves it open. */
export function orBlank<T>(text: string, read: (typed: string) => Result<T>): Result<T | null> {
  const typed = text.trim()
  return typed === '' ? ok(null) : read(typed)
}

/** One line of text of at most so many characters. */
export function readText(text: string, most: number): Result<string> {
  const typed = text.replace(/\s*[\r\n]+\s*/g, ' ').trim()
  return typed.length > most
    ? refusal('cell.long', `This has ${typed.length} characters.`, `${typed.slice(0, 40)}…`, `at most ${most}`, [
        { label: `Keep the first ${most}`, value: typed.slice(0, most) },
      ])
    : ok(typed)
}

/** A whole number, also as spreadsheets write it: 502,0 or 502.00. A part of one is refused, with the next whole number offered. */
export function readCount(text: string, name: string, min: number, max: number): Result<number> {
  const typed = text.trim()
  const parts = /^(\d+)[.,](\d+)$/.exec(typed)
  if (parts && /[1-9]/.test(parts[2] ?? '')) {
    const up = String(Number(parts[1]) + 1)
    return refusal('cell.not-whole', `${typed} is not a whole number.`, typed, `a whole number from ${min} to ${max}`, [
      { label: `Use ${up}`, value: up },
    ])
  }
  return parseWholeNumber(parts?.[1] ?? typed, { name, min, max, reason: '' })
}

const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '')

/** One of a list, by its name or its id; capitals, spaces and marks make no difference. */
export function oneOf<K extends string>(
  text: string,
  what: string,
  list: readonly (readonly [id: K, name: string])[],
): Result<K> {
  const typed = plain(text)
  const exact = list.find(([id, name]) => plain(id) === typed || plain(name) === typed)
  if (exact) return ok(exact[0])
  const near = list.filter(([, name]) => typed !== '' && plain(name).includes(typed)).slice(0, 4)
  return refusal(
    'cell.not-listed',
    `"${text.trim()}" is not ${what}.`,
    text.trim(),
    list.map(([, name]) => name).join(', ') || 'none yet',
    near.map(([, name]) => ({ label: name, value: name })),
  )
}
