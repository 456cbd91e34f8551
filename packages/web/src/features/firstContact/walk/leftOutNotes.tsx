import type { Job } from '@calm/core/job'
import type { LeftOut } from '@calm/core/procedure'
import type { WalkActs } from '../../../api'
import { Glyph, Problems } from '../../../ui'
import { LeadsOut } from './leadsOut'

const SHOWN = 6

interface LeftOutNotesProps {
  readonly job: Job
  readonly leftOut: readonly LeftOut[]
  readonly acts: WalkActs
  /** Only the count is shown until it is opened. */
  readonly folded?: boolean
}

/** Devices that cannot be walked as things are, with the reason and what would help. */
export function LeftOutNotes({ job, leftOut, acts, folded = false }: LeftOutNotesProps) {
  if (leftOut.length === 0) return null
  const count = leftOut.flatMap((each) => each.deviceIds).length
  const known = new Set(job.devices.map((device) => device.id))
  const shown = leftOut.filter((each) => each.deviceIds.every((id) => known.has(id))).slice(0, SHOWN)
  return (
    <section className="mb-3 border-l-4 border-odds-mark px-4 py-2.5" aria-label="Not in the order">
      <details open={!folded}>
        <summary className="inline-flex cursor-pointer items-center gap-1.5 font-firm text-odds">
          <Glyph state="at-odds" size={16} /> {count} not in the order
        </summary>
        <ul>
          {shown.map((each) => (
            <li className="py-1 text-row" key={each.deviceIds.join()}>
              {each.why}
              {each.help.length > 0 && (
                <ul className="list-disc pl-4.5 note">
                  {each.help.map((text) => (
                    <li key={text}>{text}</li>
                  ))}
                </ul>
              )}
              <LeadsOut
                className="mt-1"
                devices={job.devices.filter(({ id }) => each.leadsOf.includes(id))}
                acts={acts}
              />
            </li>
          ))}
          {leftOut.length > shown.length && (
            <li className="py-1 text-row text-ink-soft">and {leftOut.length - shown.length} more</li>
          )}
        </ul>
        <Problems reason={acts.of('temporary').problem ?? acts.of('facts').problem} />
      </details>
    </section>
  )
}
