import type { Job } from '@calm/core/job'
import type { Held } from '@calm/core/procedure'
import type { WalkActs } from '../../../api'
import { Glyph, Problems } from '../../../ui'
import { LeadsOut } from './leadsOut'

interface HeldStopProps {
  readonly job: Job
  readonly held: Held
  readonly acts: WalkActs
}

/** A stop that waits, because a device that is not in the order would stand on one address with another. */
export function HeldStop({ job, held, acts }: HeldStopProps) {
  const apart = job.devices.filter((device) => held.leadsOf.includes(device.id))
  return (
    <section className="mt-3.5 grid gap-3 border-t border-rule pt-3.5" aria-label="What this stop waits for">
      <p className="flex items-center gap-2 text-lead text-odds">
        <Glyph state="waiting" size={18} /> {held.why}
      </p>
      {held.help.length > 0 && (
        <ul className="max-w-[60ch] text-ink-soft">
          {held.help.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <Problems reason={acts.of('temporary').problem ?? acts.of('facts').problem} />
      {apart.length > 0 && (
        <div className="flex flex-wrap items-center gap-2.5">
          <LeadsOut
            className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
            devices={apart}
            acts={acts}
          />
        </div>
      )}
    </section>
  )
}
