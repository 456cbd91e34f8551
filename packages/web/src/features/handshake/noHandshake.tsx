import type { Device, Job } from '@calm/core/job'
import { useState } from 'react'
import { Link } from 'react-router'
import { Choice, Problems } from '../../ui'
import { controllersOf, useBeginHandshake } from './useBeginHandshake'

/** In place of a stage that needs a handshake: begins one, or says what is missing for it. */
export function NoHandshake({ job, stage }: { job: Job; stage: string }) {
  const controllers = controllersOf(job)
  const others = job.devices.filter((device) => !controllers.includes(device))
  const [controllerId, setController] = useState(controllers[0]?.id ?? '')
  const [deviceId, setDevice] = useState(others[0]?.id ?? '')
  const { begin, problem } = useBeginHandshake(job)
  const missing = controllers.length === 0 ? 'a controller' : others.length === 0 ? 'a device for it' : undefined
  const choices = (devices: readonly Device[]) => devices.map((device) => ({ value: device.id, label: device.tag }))
  return (
    <main className="sheet grid content-start justify-items-start gap-3 p-6" tabIndex={-1}>
      <h1>{stage}</h1>
      {missing ? (
        <p>
          There is no handshake yet. Add {missing} in the <Link to={`/jobs/${job.id}/line-up`}>line-up</Link> first.
        </p>
      ) : (
        <form
          className="grid w-80 gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            begin({ controllerId, deviceId })
          }}
        >
          <p>There is no handshake yet.</p>
          <Choice label="Controller" value={controllerId} choices={choices(controllers)} onChange={setController} />
          <Choice label="Device" value={deviceId} choices={choices(others)} onChange={setDevice} />
          <button type="submit" className="act tall">
            Begin the handshake
          </button>
          <p className="note">What the line-up knows of it stands at both ends then. Nothing is sent to a device.</p>
          <Problems reason={problem} />
        </form>
      )}
    </main>
  )
}
