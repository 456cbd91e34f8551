import type { Device, Job } from '@calm/core/job'
import { Link } from 'react-router'
import { newRow } from '@calm/contract'
import { againstPart, useSchemaForm } from '../../forms'
import { Button, Choice, Problems, Sheet } from '../../ui'
import { controllersOf, useBeginHandshake } from './useBeginHandshake'

const check = againstPart<{ controllerId: string; deviceId: string }>(newRow('handshake'))

/** In place of a stage that needs a handshake: begins one, or says what is missing for it. */
export function NoHandshake({ job, stage }: { job: Job; stage: string }) {
  const controllers = controllersOf(job)
  const others = job.devices.filter((device) => !controllers.includes(device))
  const { begin, problem } = useBeginHandshake(job)
  const form = useSchemaForm({
    start: { controllerId: controllers[0]?.id ?? '', deviceId: others[0]?.id ?? '' },
    check,
    send: (ends) => Promise.resolve(begin(ends)),
  })
  const missing = controllers.length === 0 ? 'a controller' : others.length === 0 ? 'a device for it' : undefined
  const choices = (devices: readonly Device[]) => devices.map((device) => ({ value: device.id, label: device.tag }))
  return (
    <Sheet className="grid content-start justify-items-start gap-3 p-6">
      <h1>{stage}</h1>
      {missing ? (
        <p>
          There is no handshake yet. Add {missing} in the <Link to={`/jobs/${job.id}/line-up`}>line-up</Link> first.
        </p>
      ) : (
        <form className="grid w-80 gap-3" onSubmit={form.onSubmit} noValidate>
          <p>There is no handshake yet.</p>
          <Choice label="Controller" choices={choices(controllers)} {...form.bind('controllerId')} />
          <Choice label="Device" choices={choices(others)} {...form.bind('deviceId')} />
          <Button type="submit" look="act" size="tall">
            Begin the handshake
          </Button>
          <p className="note">What the line-up knows of it stands at both ends then. Nothing is sent to a device.</p>
          <Problems reason={problem} />
        </form>
      )}
    </Sheet>
  )
}
