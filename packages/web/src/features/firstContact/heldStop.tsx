import type { Job } from '@calm/core/job'
import { LEAD_SETTING, leadOut, type Held } from '@calm/core/procedure'
import type { WalkActs } from '../../api'
import { Glyph, Problems } from '../../ui'

interface HeldStopProps {
  readonly job: Job
  readonly held: Held
  readonly acts: WalkActs
}

/** A stop that waits, because a device that is not in the order would stand on one address with another. */
export function HeldStop({ job, held, acts }: HeldStopProps) {
  const apart = job.devices.filter((device) => held.leadsOf.includes(device.id))
  const pulled = async () => {
    for (const device of apart) {
      await acts.addTemporary(leadOut(device.tag), 'Plug it in when nothing else holds its address.')
      await acts.addFact({
        deviceId: device.id,
        setting: LEAD_SETTING,
        standing: 'in-force',
        text: 'pulled',
        how: 'seen',
      })
    }
  }
  return (
    <section className="step" aria-label="What this stop waits for">
      <p className="step-odds">
        <Glyph state="waiting" size={18} /> {held.why}
      </p>
      {held.help.length > 0 && (
        <ul className="step-why">
          {held.help.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <Problems reason={acts.of('temporary').problem ?? acts.of('facts').problem} />
      {apart.length > 0 && (
        <div className="step-acts">
          <button
            type="button"
            className="quiet tall"
            disabled={acts.of('temporary').busy || acts.of('facts').busy}
            onClick={() => void pulled().catch(() => undefined)}
          >
            Lead of {apart.map((device) => device.tag).join(', ')} is out
          </button>
        </div>
      )}
    </section>
  )
}
