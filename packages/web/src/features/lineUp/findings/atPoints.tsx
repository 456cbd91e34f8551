import type { Job } from '@calm/core/job'
import { checkPoints } from '@calm/core/points'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { Glyph } from '../../../ui'

/** So many of a handshake are told here; its own page tells all. */
const SHOWN = 3

/** What was found at points, by the handshake that reads them; they are put right on the data path. */
export function AtPoints({ job }: { job: Job }) {
  const found = useMemo(
    () =>
      job.handshakes.flatMap((handshake) => {
        const { findings } = checkPoints(job, handshake)
        return findings.length === 0 ? [] : [{ handshake, findings }]
      }),
    [job],
  )
  if (found.length === 0) return null
  const count = found.reduce((sum, { findings }) => sum + findings.length, 0)
  return (
    <section aria-label="At points">
      <h2 className="mt-3.5 flex items-center gap-1.75 text-row font-firm">
        At points <span className="note">{count}</span>
      </h2>
      <ul>
        {found.map(({ handshake, findings }) => (
          <li key={handshake.id} className="grid grid-cols-[92px_1fr] gap-3 border-t border-rule py-2.5 text-row">
            <Link className="font-heavy" to={`/jobs/${job.id}/data-path/${handshake.id}`}>
              {job.devices.find(({ id }) => id === handshake.deviceId)?.tag}
            </Link>
            <ul className="grid gap-0.5">
              {findings.slice(0, SHOWN).map(({ rule, pointId, title, say, severity }) => (
                <li key={`${rule} ${pointId}`} className="grid grid-cols-[18px_1fr] gap-1.5">
                  <Glyph state={severity === 'will-not-work' ? 'at-odds' : 'in-hand'} size={13} />
                  <span>
                    <b>{title}</b> {say}
                  </span>
                </li>
              ))}
              {findings.length > SHOWN && <li className="note">and {findings.length - SHOWN} more</li>}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  )
}
