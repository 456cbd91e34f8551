import type { Job } from '@calm/core/job'
import { latestFact, standings, wayIn, type Standing, type WalkRecord } from '@calm/core/procedure'
import { format } from 'date-fns'
import { api } from '@calm/contract/api'
import type { WalkActs } from '../../../api'
import { againstPart, useSchemaForm } from '../../../forms'
import { Field, Glyph, Problems } from '../../../ui'

interface DeviceFactsProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly deviceId: string
  readonly acts: WalkActs
}

const check = againstPart<{ text: string }>(api.addFact.body)

/** As found, entered, in force, verified: four facts, each with who saw it. And how this box was told from its twin. */
export function DeviceFacts({ job, record, deviceId, acts }: DeviceFactsProps) {
  const device = job.devices.find((each) => each.id === deviceId)
  const form = useSchemaForm({
    start: { text: '' },
    check,
    send: ({ text }, reset) =>
      acts.addFact({ deviceId, setting: 'identity', standing: 'found', text, how: 'seen' }).then(() => reset()),
  })
  if (!device) return null
  const fact = (standing: Standing) => latestFact(record, deviceId, 'address', standing)
  const known = latestFact(record, deviceId, 'identity')
  const legs = wayIn(job, device)
  return (
    <section aria-label={device.tag}>
      <h3 className="text-lead font-heavy">{device.tag}</h3>
      <p className="note">{device.what}</p>
      <dl>
        {(Object.keys(standings) as Standing[]).map((standing) => {
          const found = fact(standing)
          const text = found?.text ?? (standing === 'found' ? device.asFound : '')
          return (
            <div className="py-1" key={standing}>
              <dt className="flex items-center gap-1.5 text-note text-ink-soft">
                <Glyph state={text === '' ? 'not-started' : standing === 'verified' ? 'proven' : 'in-hand'} size={13} />{' '}
                {standings[standing]}
              </dt>
              <dd className="font-typed font-medium">{text || <span className="font-text note">not yet</span>}</dd>
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
      <form className="mt-2" onSubmit={form.onSubmit} noValidate>
        <Field
          label={`Which box it is${known ? `: ${known.text}` : ''}`}
          placeholder="blinked, pulled its plug, label compared"
          {...form.bind('text')}
        />
      </form>
      <Problems reason={acts.of('facts').problem} />
    </section>
  )
}
