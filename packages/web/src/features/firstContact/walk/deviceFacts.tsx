import { threeFacts } from '@calm/core/checks'
import type { Device, Job } from '@calm/core/job'
import { latestFact, standings, wayIn, type Standing, type WalkRecord } from '@calm/core/procedure'
import { format } from 'date-fns/format'
import { bodies } from '@calm/contract/bodies'
import type { WalkActs } from '../../../api'
import { useEdit } from '../../../edit'
import { againstPart, useSchemaForm } from '../../../forms'
import { Button, cn, Field, Glyph, Problems } from '../../../ui'

interface DeviceFactsProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly deviceId: string
  readonly acts: WalkActs
}

const check = againstPart<{ text: string }>(bodies.addFact)

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
      <ReadOff job={job} record={record} device={device} />
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

/** Plan, label and what the device says by itself, where something was read. Which of them is right, a person decides. */
function ReadOff({ job, record, device }: Pick<DeviceFactsProps, 'job' | 'record'> & { readonly device: Device }) {
  const edit = useEdit(job)
  const lines = threeFacts(record, device)
  if (lines.length === 0) return null
  return (
    <ul className="mt-2 grid gap-2 border-t border-rule pt-2" aria-label={`Read off ${device.tag}`}>
      {lines.map(({ what, plan, label, says, state, asRead }) => (
        <li key={what} data-state={state}>
          <p className="flex items-center gap-1.5 note">
            <Glyph state={factGlyph[state]} size={13} /> {what}
          </p>
          <dl className="grid grid-cols-[44px_minmax(0,1fr)] font-typed text-note wrap-anywhere">
            {(
              [
                ['plan', plan],
                ['label', label],
                ['says', says],
              ] as const
            ).map(([side, text]) =>
              text === '' ? null : (
                <div key={side} className="contents">
                  <dt className="font-text text-ink-soft">{side}</dt>
                  <dd className={cn(state === 'differs' && 'text-odds')}>{text}</dd>
                </div>
              ),
            )}
          </dl>
          {asRead && (
            <Button
              look="plain"
              className="-ml-1.5"
              onClick={() => edit.attempt(edit.change(`${what} of ${device.tag} planned as it was read.`, [asRead]))}
            >
              Plan it as read
            </Button>
          )}
        </li>
      ))}
      <Problems reason={edit.problem} />
    </ul>
  )
}

const factGlyph = { agrees: 'proven', differs: 'at-odds', 'not-known': 'in-hand' } as const
