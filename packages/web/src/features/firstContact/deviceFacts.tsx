import type { Job } from '@calm/core/job'
import { latestFact, standings, wayIn, type Standing, type WalkRecord } from '@calm/core/procedure'
import { format } from 'date-fns'
import { useState } from 'react'
import type { WalkActs } from '../../api'
import { Glyph, Problems } from '../../ui'

interface DeviceFactsProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly deviceId: string
  readonly acts: WalkActs
}

/** As found, entered, in force, verified: four facts, each with who saw it. And how this box was told from its twin. */
export function DeviceFacts({ job, record, deviceId, acts }: DeviceFactsProps) {
  const device = job.devices.find((each) => each.id === deviceId)
  const [identity, setIdentity] = useState('')
  if (!device) return null
  const fact = (standing: Standing) => latestFact(record, deviceId, 'address', standing)
  const known = latestFact(record, deviceId, 'identity')
  const legs = wayIn(job, device)
  return (
    <section className="device-facts" aria-label={device.tag}>
      <h3>{device.tag}</h3>
      <p className="note">{device.what}</p>
      <dl>
        {(Object.keys(standings) as Standing[]).map((standing) => {
          const found = fact(standing)
          const text = found?.text ?? (standing === 'found' ? device.asFound : '')
          return (
            <div key={standing}>
              <dt>
                <Glyph state={text === '' ? 'not-started' : standing === 'verified' ? 'proven' : 'in-hand'} size={13} />{' '}
                {standings[standing]}
              </dt>
              <dd className="typed">{text || <span className="note">not yet</span>}</dd>
              {found && (
                <dd className="note">
                  {found.who}, {format(found.at, 'HH:mm')}, {found.how.replace('-', ' ')}
                </dd>
              )}
            </div>
          )
        })}
      </dl>
      {device.ports.length === 0 && <p className="note">Way in: {legs.join(' → ')}</p>}
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void acts.addFact({ deviceId, setting: 'identity', standing: 'found', text: identity, how: 'seen' }).then(
            () => setIdentity(''),
            () => undefined,
          )
        }}
      >
        <label className="field">
          <span>Which box it is{known ? `: ${known.text}` : ''}</span>
          <input
            className="input"
            value={identity}
            placeholder="blinked, pulled its plug, label compared"
            onChange={(event) => setIdentity(event.target.value)}
          />
        </label>
      </form>
      <Problems reason={acts.of('facts').problem} />
    </section>
  )
}
