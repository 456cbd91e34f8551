import type { Job } from '@calm/core/job'
import { LEAD_SETTING, leadOut, type Held } from '@calm/core/procedure'
import type { WalkActs } from '../../../api'
import { Glyph, Problems, Button } from '../../../ui'

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
          <Button
            className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
            size="tall"
            disabled={acts.of('temporary').busy || acts.of('facts').busy}
            onClick={() => void pulled().catch(() => undefined)}
          >
            Lead of {apart.map((device) => device.tag).join(', ')} is out
          </Button>
        </div>
      )}
    </section>
  )
}
