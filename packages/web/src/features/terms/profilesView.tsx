import type { Change } from '@calm/core/changes'
import { deviationsFrom, freeKindId, profileOf, putKindOn, type Device, type Job } from '@calm/core/job'
import { kindFacts, kindsOf } from '@calm/core/kind'
import { termDefinition, type TermId } from '@calm/core/terms'
import { useState } from 'react'
import { newId } from '../../api'
import { useEdit } from '../../edit'
import { Button, Checkbox, Choice, Field, formActions, Problems } from '../../ui'

/** A device's settings as a kind of its own, put on others; and where devices differ from their kind. */
export function ProfilesView({ job, from }: { job: Job; from: string }) {
  const [sourceId, setSourceId] = useState(from)
  const [kindId, setKindId] = useState<string | undefined>(undefined)
  const source = job.devices.find(({ id }) => id === sourceId) ?? job.devices[0]
  if (!source) return null
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[340px_1fr] gap-8 overflow-auto px-5 py-3 max-desk:grid-cols-1">
      <SaveProfile key={source.id} job={job} source={source} onSource={setSourceId} onSaved={setKindId} />
      <PutProfile key={kindId ?? source.kind} job={job} source={source} start={kindId ?? source.kind} />
    </div>
  )
}

function SaveProfile({
  job,
  source,
  onSource,
  onSaved,
}: {
  job: Job
  source: Device
  onSource: (id: string) => void
  onSaved: (id: string) => void
}) {
  const edits = useEdit(job)
  const [name, setName] = useState(`${kindFacts(source.kind, job.kinds).name}, as ${source.tag}`)
  const asked = job.devices.filter(({ id }) => job.handshakes.some(({ deviceId }) => deviceId === id))
  const profile = profileOf(job, source, freeKindId(job, name.trim()), name.trim())
  const terms = Object.entries(profile.terms ?? {}) as [TermId, string][]
  const save = () => {
    const change: Change = { op: 'add', table: 'kind', id: newId(), fields: { facts: profile } }
    edits.attempt(edits.change(`Kind ${profile.name} saved.`, [change]).then(() => onSaved(profile.id)))
  }
  const tooShort = name.trim().length < 2
  return (
    <section aria-label="Save as a kind" className="grid content-start gap-3">
      <h2>Save as a kind</h2>
      <Choice
        label="Device"
        value={source.id}
        choices={asked.map(({ id, tag }) => ({ value: id, label: tag }))}
        onChange={onSource}
      />
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 text-row">
        {terms.map(([id, text]) => (
          <div key={id} className="contents">
            <dt>{termDefinition(id).name}</dt>
            <dd className="font-typed">{text}</dd>
          </div>
        ))}
      </dl>
      <p className="note">
        Its way of setting, what brings it into force and its times go with it. Address, unit, node, name and serial
        number stay its own.
      </p>
      <Field label="Name of the kind" value={name} onChange={setName} />
      {tooShort && <p className="note">A kind has a name of at least 2 signs.</p>}
      <Problems reason={edits.problem} />
      <div className={formActions}>
        <Button look="act" disabled={tooShort || terms.length === 0} onClick={save}>
          Save as a kind of this job
        </Button>
      </div>
    </section>
  )
}

function PutProfile({ job, source, start }: { job: Job; source: Device; start: string }) {
  const edits = useEdit(job)
  const [kindId, setKindId] = useState(start)
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [withProven, setWithProven] = useState(false)
  const kind = kindFacts(kindId, job.kinds)
  const role = kind.role
  const same = job.devices.filter(
    (device) =>
      kindFacts(device.kind, job.kinds).role === role && job.handshakes.some(({ deviceId }) => deviceId === device.id),
  )
  const rows = same.map((device) => ({ device, found: deviationsFrom(job, device, kindId) }))
  const picked = rows.filter(({ device }) => chosen.has(device.id))
  const provenCount = picked.flatMap(({ found }) => found).filter(({ isProven }) => isProven).length
  const changes = putKindOn(
    job,
    kind,
    picked.map(({ device }) => device),
    newId,
    ({ isProven }) => withProven || !isProven,
  )
  const put = () => {
    edits.attempt(
      edits
        .change(`${kind.name} put on ${picked.map(({ device }) => device.tag).join(', ')}.`, changes)
        .then(() => setChosen(new Set())),
    )
  }
  return (
    <section aria-label="Put on others" className="grid content-start gap-3">
      <h2>Put on others, and see what differs</h2>
      <Choice
        label="Kind"
        value={kindId}
        choices={kindsOf(job.kinds)
          .filter((each) => each.role === kindFacts(source.kind, job.kinds).role)
          .map(({ id, name }) => ({ value: id, label: name }))}
        onChange={setKindId}
      />
      <ul className="grid">
        {rows.map(({ device, found }) => (
          <li
            key={device.id}
            className="grid grid-cols-[150px_1fr] gap-x-4 border-t border-rule py-1.5 text-row"
            data-profile={device.tag}
          >
            <Checkbox
              label={device.tag}
              checked={chosen.has(device.id)}
              onChange={(on) =>
                setChosen(new Set(on ? [...chosen, device.id] : [...chosen].filter((id) => id !== device.id)))
              }
            />
            <span>
              {device.kind !== kindId && (
                <span className="text-ink-soft">now {kindFacts(device.kind, job.kinds).name}. </span>
              )}
              {found.length === 0 ? (
                <span className="text-ink-soft">nothing differs</span>
              ) : (
                found.map(({ handshake, id, name, is, profile, isProven }) => (
                  <span key={`${handshake.id} ${id}`} className="mr-4 inline-block">
                    {name} <span className="font-typed">{is === '' ? 'not said' : is}</span> →{' '}
                    <b className="font-typed">{profile}</b>
                    {isProven && <span className="text-note text-ink-soft"> proven</span>}
                  </span>
                ))
              )}
            </span>
          </li>
        ))}
      </ul>
      {provenCount > 0 && (
        <Checkbox
          label={`Change ${provenCount} that proven rungs rest on too`}
          checked={withProven}
          onChange={setWithProven}
        />
      )}
      <Problems reason={edits.problem} />
      <div className={formActions}>
        <Button look="act" disabled={changes.length === 0} onClick={put}>
          {changes.length === 0
            ? 'Nothing would change'
            : `Put on ${picked.length} device${picked.length === 1 ? '' : 's'}`}
        </Button>
        <span className="note">Changes what is planned here. Each device is still to be set.</span>
      </div>
    </section>
  )
}
