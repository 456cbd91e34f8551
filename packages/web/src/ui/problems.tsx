import { ProblemError } from '../api'

/** Everything that is wrong with what was sent, each with its place, what was found and what is expected. */
export function Problems({ reason }: { reason: unknown }) {
  if (!reason) return null
  const problems =
    reason instanceof ProblemError
      ? reason.problems
      : [{ what: 'The server does not answer. What you typed stays here.', where: '', expected: '', found: '' }]
  return (
    <ul className="problems" role="alert">
      {problems.slice(0, 12).map((problem, k) => (
        <li key={`${problem.where}${k}`}>
          {problem.what} {problem.where !== '' && <span className="where">{problem.where}</span>}
          {problem.expected !== '' && (
            <div className="note">
              Expected {problem.expected}; found {problem.found}.
            </div>
          )}
        </li>
      ))}
      {problems.length > 12 && <li className="note">and {problems.length - 12} more</li>}
    </ul>
  )
}
