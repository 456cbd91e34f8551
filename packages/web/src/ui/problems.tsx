import { ProblemError } from '../api'

/** Everything that is wrong with what was sent, each with its place, what was found and what is expected. */
export function Problems({ reason }: { reason: unknown }) {
  if (!reason) return null
  const problems = reason instanceof ProblemError ? reason.problems : [unforeseen(reason)]
  return (
    <ul className="grid gap-1.5 border-l-4 border-odds-mark py-1.5 pl-3 text-row" role="alert">
      {problems.slice(0, 12).map((problem, k) => (
        <li key={`${problem.where}${k}`}>
          {problem.what}{' '}
          {isPath(problem.where) && <span className="font-typed text-note text-ink-soft">{problem.where}</span>}
          {problem.expected !== '' && (
            <div className="text-note text-ink-soft">
              Expected {problem.expected}; found {problem.found === '' ? 'nothing' : problem.found}.
            </div>
          )}
        </li>
      ))}
      {reason instanceof ProblemError && reason.status === 409 && (
        <li className="text-note text-ink-soft">
          It now says: {rowText(reason.current)}. Save again to put yours in its place, or leave it.
        </li>
      )}
      {problems.length > 12 && <li className="text-note text-ink-soft">and {problems.length - 12} more</li>}
    </ul>
  )
}

/** A place in a file or list is told; the name of the one field at hand says nothing new. */
const isPath = (where: string): boolean => /[.[]/.test(where)

const unforeseen = (reason: unknown) => ({
  // A request that got no answer at all is a TypeError of fetch.
  what:
    reason instanceof TypeError
      ? 'The server does not answer. What you typed stays here.'
      : 'Something in this page went wrong. What you typed stays here; reload if it happens again.',
  where: '',
  expected: '',
  found: '',
})

/** The fields of a row as it stands now, without what only the program needs. */
function rowText(row: unknown): string {
  const hidden = /^(id|version|removedAt|position)$|Id$/
  return (
    Object.entries((row ?? {}) as Record<string, unknown>)
      // Lists and contents with a form of their own say nothing in one line.
      .filter(([field, value]) => !hidden.test(field) && (typeof value !== 'object' || value === null))
      .map(([field, value]) => `${field} ${value === null || value === '' ? 'blank' : String(value)}`)
      .join(', ')
  )
}
