import { devicesOfAnswers, sweepVerdicts, type SweepLine } from '@calm/core/procedure'
import type { Job } from '@calm/core/job'
import { newId } from '../../api'
import { useEdit } from '../../edit'
import { Glyph, Problems } from '../../ui'

const marks = {
  expected: 'proven',
  silent: 'not-started',
  unknown: 'at-odds',
  twice: 'at-odds',
  'still-old': 'in-hand',
} as const

/** What a search found; each that nobody planned becomes a device in one step. */
export function SweepTable({ job, lines }: { job: Job; lines: readonly SweepLine[] }) {
  const edit = useEdit(job)
  const changes = devicesOfAnswers(job, lines, newId)
  const count = changes.filter(({ table }) => table === 'device').length
  const devices = `${count} device${count === 1 ? '' : 's'}`
  return (
    <>
      {count > 0 && (
        <p className="my-2 flex flex-wrap items-center gap-3">
          <button
            type="button"
            className="act"
            onClick={() => edit.attempt(edit.change(`${devices} taken in from a search.`, changes))}
          >
            Take {devices} into the line-up
          </button>
          <span className="note">Tag and kind are guesses: put them right in the line-up.</span>
        </p>
      )}
      <Problems reason={edit.problem} />
      <table className="sweep">
        <thead>
          <tr>
            <th>Address</th>
            <th>Verdict</th>
            <th>Device</th>
            <th>It says</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.address}>
              <td className="typed">{line.address}</td>
              <td>
                <span className={`state ${marks[line.verdict]}`}>
                  <Glyph state={marks[line.verdict]} size={14} /> {sweepVerdicts[line.verdict]}
                </span>
              </td>
              <td>{line.tags.join(', ')}</td>
              <td className="note whitespace-normal">
                {line.answer
                  ? [...line.answer.identities, ...line.answer.ports.map((port) => `port ${port}`)].join('; ')
                  : ''}{' '}
                {line.answer?.hardwareAddress}
              </td>
            </tr>
          ))}
          {lines.length === 0 && (
            <tr>
              <td colSpan={4}>Nobody answered, and nobody is planned there.</td>
            </tr>
          )}
        </tbody>
      </table>
    </>
  )
}
