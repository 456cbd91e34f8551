import type { Job } from '@calm/core/job'
import type { LeftOut } from '@calm/core/procedure'
import { Glyph } from '../../ui'

/** Devices that cannot be walked as things are, with the reason and what would help. */
export function LeftOutNotes({ job, leftOut }: { job: Job; leftOut: readonly LeftOut[] }) {
  if (leftOut.length === 0) return null
  const tags = new Map(job.devices.map((device) => [device.id, device.tag]))
  const shown = leftOut.slice(0, 6)
  return (
    <section className="left-out" aria-label="Not in the order">
      <p className="state at-odds">
        <Glyph state="at-odds" size={16} /> {leftOut.flatMap((each) => each.deviceIds).length} not in the order
      </p>
      <ul>
        {shown.map((each) => (
          <li key={each.deviceIds.join()}>
            <b>{each.deviceIds.map((id) => tags.get(id) ?? id).join(', ')}</b> {each.why}
            {each.help.length > 0 && <p className="note">{each.help.join(' Or: ')}</p>}
          </li>
        ))}
        {leftOut.length > shown.length && <li className="note">and {leftOut.length - shown.length} more</li>}
      </ul>
    </section>
  )
}
