import type { Problem } from '@calm/contract'
import { kindFileOf, readKindFile } from '@calm/contract/kindFile'
import type { Job } from '@calm/core/job'
import { kindsOf, shippedKinds, type DeviceKindFacts } from '@calm/core/kind'
import type { Change } from '@calm/core/changes'
import type { DeviceDescription } from '@calm/core/description'
import { useState } from 'react'
import { newId, ProblemError } from '../../../api'
import { Button, Choice, Dialog, FilePicker, formActions, Problems, saveJson } from '../../../ui'
import { KindFactList } from '../panel'
import { DescribedKind, descriptionOf } from './describedKind'
import type { LineUp } from '../useLineUp'

interface KindsProps {
  readonly job: Job
  readonly lineUp: LineUp
  readonly onClose: () => void
}

/** The kinds that ship and those of the job: looked at, copied to a file, changed there and taken back in. */
export default function KindsDialog({ job, lineUp, onClose }: KindsProps) {
  const all = kindsOf(job.kinds)
  const [shownId, setShownId] = useState(all[0]?.id ?? '')
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const [said, setSaid] = useState('')
  const shown = all.find((kind) => kind.id === shownId) ?? all[0]
  const own = job.kinds.find((kind) => kind.facts.id === shown?.id)
  const [described, setDescribed] = useState<DeviceDescription | undefined>(undefined)
  const inUse = job.devices.filter((device) => device.kind === shown?.id).length

  const take = async (text: string) => {
    const reading = readKindFile(text)
    setSaid('')
    if (!reading.ok) return setTrouble(new ProblemError(422, reading.problems as Problem[]))
    const changes = reading.kinds.map((facts): Change => {
      const before = job.kinds.find((kind) => kind.facts.id === facts.id)
      return before
        ? { op: 'set', table: 'kind', id: before.id, version: before.version, fields: { facts } }
        : { op: 'add', table: 'kind', id: newId(), fields: { facts } }
    })
    try {
      await lineUp.change(`${changes.length} kinds taken in.`, changes)
      setTrouble(undefined)
      setSaid(`Taken in: ${reading.kinds.map((kind) => kind.name).join(', ')}.`)
    } catch (reason) {
      setTrouble(reason)
    }
  }
  const look = (file: File) => {
    setSaid('')
    descriptionOf(file).then(
      (found) => {
        setTrouble(undefined)
        setDescribed(found)
      },
      (reason: unknown) => {
        setDescribed(undefined)
        setTrouble(reason)
      },
    )
  }
  const takeDescribed = async (facts: DeviceKindFacts) => {
    try {
      await lineUp.change(`Kind ${facts.name} made.`, [{ op: 'add', table: 'kind', id: newId(), fields: { facts } }])
      setDescribed(undefined)
      setTrouble(undefined)
      setShownId(facts.id)
      setSaid(`Made: ${facts.name}. Its revision, sizes and limits are compared at the terms.`)
    } catch (reason) {
      setTrouble(reason)
    }
  }
  return (
    <Dialog
      title="Kinds of devices"
      say="What a kind has out of the box, how it is set, how long it takes. Copy one to a file, change it, take it in as your own."
      open
      onClose={onClose}
    >
      {!described && (
        <div className="my-3.5 mt-3 grid grid-cols-2 gap-x-4 gap-y-3">
          <Choice
            label="Kind"
            value={shown?.id ?? ''}
            choices={all.map(({ id, name }) => ({
              value: id,
              label: shippedKinds.some((kind) => kind.id === id) ? name : `${name} (of this job)`,
            }))}
            onChange={setShownId}
          />
          <p className="self-end note">
            {shown?.id}; {inUse === 0 ? 'no device of this job' : `${inUse} in this job`}
          </p>
        </div>
      )}
      {described ? (
        <DescribedKind
          job={job}
          described={described}
          onTake={(facts) => void takeDescribed(facts)}
          onLeave={() => setDescribed(undefined)}
        />
      ) : (
        shown && <KindFactList facts={shown} />
      )}
      <Problems reason={trouble} />
      {said !== '' && <p role="status">{said}</p>}
      {!described && (
        <div className={formActions}>
          <FilePicker label="Kind file" accept=".json,application/json" onFile={(file) => void file.text().then(take)}>
            Take in a kind file
          </FilePicker>
          <FilePicker label="Description file" accept=".eds,.dcf,.gsd,.gse,.txt" onFile={look}>
            Read a description file
          </FilePicker>
          {shown && <Button onClick={() => saveFile(shown)}>Copy to a file</Button>}
          {own && inUse === 0 && (
            <Button
              look="plain"
              onClick={() => lineUp.attempt(lineUp.removeRow(`Kind ${own.facts.name} removed.`, 'kind', own))}
            >
              Remove {own.facts.name}
            </Button>
          )}
        </div>
      )}
    </Dialog>
  )
}

/** A copy gets an id of its own, so that it can be taken in beside the one that ships. */
function saveFile(kind: DeviceKindFacts): void {
  const isShipped = shippedKinds.some((each) => each.id === kind.id)
  const copy = isShipped ? { ...kind, id: `own-${kind.id}`, name: `${kind.name}, own` } : kind
  saveJson(`${copy.id}.kind.json`, kindFileOf([copy]))
}
