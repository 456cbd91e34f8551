import { usualTime } from '@calm/core/procedure'
import { Button } from '../../ui'
import type { FirstContact } from './useFirstContact'

/** That the order is being worked out, how long at most, and a way to stop it; nothing where it is there. */
export function PlanningNote({ contact }: { readonly contact: FirstContact }) {
  const { planning, given } = contact
  const count = given.devices.length
  if (planning.stopped)
    return (
      <p className="mb-3 flex flex-wrap items-center gap-2.5" role="status">
        Stopped: what is shown was worked out before the last change.
        <Button onClick={planning.again}>Work it out</Button>
      </p>
    )
  if (!planning.busy) return null
  return (
    <p className="mb-3 flex flex-wrap items-center gap-2.5" role="status">
      Working out the order of {count} {count === 1 ? 'device' : 'devices'}, at most{' '}
      {Math.ceil(usualTime(count) / 1000)} s…
      <Button look="plain" onClick={planning.stop}>
        Stop
      </Button>
    </p>
  )
}
