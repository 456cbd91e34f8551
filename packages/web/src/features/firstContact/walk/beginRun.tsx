import type { Job } from '@calm/core/job'
import { begunKey, openRuns, runFitsNow, runsOf, type RunFacts, type WalkRecord } from '@calm/core/procedure'
import { useState } from 'react'
import { newId, type WalkActs } from '../../../api'
import { AskRow, Button, Choice, Dialog, Problems } from '../../../ui'

interface BeginRunProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly acts: WalkActs
  /** The device that it is begun for at first. */
  readonly deviceId: string
  readonly onClose: () => void
  /** @param stopKey of the stop that the run is now */
  readonly onBegun: (stopKey: string) => void
}

/** Begins a run for one device beside the order: at any time, live or not, at whatever address it has. */
export function BeginRun({ job, record, acts, deviceId, onClose, onBegun }: BeginRunProps) {
  const [forId, setForId] = useState(deviceId)
  const [runId, setRunId] = useState('')
  const device = job.devices.find((each) => each.id === forId) ?? job.devices[0]
  const fitting = device ? runsOf(record.runs).filter((run) => runFitsNow(run, device.kind)) : []
  const run = fitting.find(({ id }) => id === runId) ?? fitting[0]
  const inHand = device && openRuns(job, record).find((open) => open.device.id === device.id)
  if (!device) return null
  const begin = async (chosen: RunFacts) => {
    const begun = { id: newId(), deviceId: device.id, runId: chosen.id }
    const onDemand = [...record.settings.onDemand, begun]
    await acts.saveSettings(record.version, { ...record.settings, onDemand })
    onBegun(begunKey(begun))
  }
  return (
    <Dialog
      title="Begin a run"
      say="It comes before the rest of the walk. Nothing is done by beginning it."
      open
      onClose={onClose}
    >
      <div className="mt-3 grid gap-3">
        <Choice
          label="Device"
          value={device.id}
          choices={job.devices.map(({ id, tag, what }) => ({ value: id, label: what ? `${tag}, ${what}` : tag }))}
          onChange={setForId}
        />
        <Choice
          label="Run"
          value={run?.id ?? ''}
          choices={fitting.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setRunId}
        />
        {run && (
          <div className="grid gap-1.5">
            <p>{run.about}</p>
            {run.steps
              .filter(({ kind }) => kind === 'caution')
              .map((step) => (
                <p key={step.id} className="border-l-2 border-odds pl-2.5 text-row">
                  {step.say.replaceAll('{tag}', device.tag).replaceAll('{group}', 'its breaker')}
                </p>
              ))}
          </div>
        )}
        {inHand && (
          <p className="text-odds" role="status">
            {inHand.run.name} is in hand for {device.tag}. Finish it or give it up first.
          </p>
        )}
        <Problems reason={acts.of('order').problem} />
        <div className="flex flex-wrap gap-2.5">
          <Button
            look="act"
            size="tall"
            disabled={!run || inHand !== undefined || acts.of('order').busy}
            onClick={() => run && void begin(run).catch(() => undefined)}
          >
            Begin{run ? ` ${run.name.toLowerCase()}` : ''} for {device.tag}
          </Button>
          <Button size="tall" onClick={onClose}>
            Leave it
          </Button>
        </div>
      </div>
    </Dialog>
  )
}

/** A run that was begun is given up: what was done stays as it is, in the plant and in the log. */
export function GiveUpRun({ record, acts, id }: Pick<BeginRunProps, 'record' | 'acts'> & { readonly id: string }) {
  const [asking, setAsking] = useState(false)
  const giveUp = () =>
    acts
      .saveSettings(record.version, {
        ...record.settings,
        onDemand: record.settings.onDemand.filter((each) => each.id !== id),
      })
      .catch(() => undefined)
  return (
    <div className="mt-3">
      {asking ? (
        <div role="group" aria-label="Give this run up?">
          <p>What was done stays as it is, in the plant and in the log. The order takes the device as it is then.</p>
          <AskRow act="Give it up" onAct={() => void giveUp()} onLeave={() => setAsking(false)} />
        </div>
      ) : (
        <Button look="plain" onClick={() => setAsking(true)}>
          Give this run up
        </Button>
      )}
    </div>
  )
}
