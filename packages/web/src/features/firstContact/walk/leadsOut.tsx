import type { Device } from '@calm/core/job'
import { LEAD_SETTING, leadOut } from '@calm/core/procedure'
import type { WalkActs } from '../../../api'
import { Button } from '../../../ui'

interface LeadsOutProps {
  readonly devices: readonly Device[]
  readonly acts: WalkActs
  readonly className?: string
}

/** Says that the network leads of devices were pulled: they are temporary, and the order counts with them. */
export function LeadsOut({ devices, acts, className }: LeadsOutProps) {
  if (devices.length === 0) return null
  const pulled = async () => {
    for (const device of devices) {
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
    <Button
      className={className}
      size="tall"
      disabled={acts.of('temporary').busy || acts.of('facts').busy}
      onClick={() => void pulled().catch(() => undefined)}
    >
      Lead of {devices.map((device) => device.tag).join(', ')} is out
    </Button>
  )
}
