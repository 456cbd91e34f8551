import { runFileOf } from '@calm/contract/runFile'
import { settingOf } from '@calm/core/job'
import { runFits, runOfDevice, runsOf, type RunFacts } from '@calm/core/procedure'
import { useRef, useState } from 'react'
import { Dialog, Problems } from '../../ui'
import type { ViewProps } from './viewProps'

/** Which run each device is walked by; runs copied, taken from a file, and saved to one. */
export function RunChoices({ job, record, acts }: Pick<ViewProps, 'job' | 'record' | 'acts'>) {
  const [shown, setShown] = useState<RunFacts | undefined>(undefined)
  const file = useRef<HTMLInputElement>(null)
  const runs = runsOf(record.runs)
  const choose = (deviceId: string, runId: string) =>
    void acts
      .saveSettings(record.version, { ...record.settings, runs: { ...record.settings.runs, [deviceId]: runId } })
      .catch(() => undefined)
  const leave = (deviceId: string, out: boolean) =>
    void acts
      .saveSettings(record.version, {
        ...record.settings,
        leftOut: out ? [...record.settings.leftOut, deviceId] : record.settings.leftOut.filter((id) => id !== deviceId),
      })
      .catch(() => undefined)
  const save = (facts: readonly RunFacts[], name: string) => {
    const link = document.createElement('a')
    link.href = URL.createObjectURL(new Blob([JSON.stringify(runFileOf(facts), null, 2)], { type: 'application/json' }))
    link.download = `${name}.runs.json`
    link.click()
    URL.revokeObjectURL(link.href)
  }
  return (
    <section aria-label="Runs">
      <h2>Runs</h2>
      <div className="step-acts">
        <button type="button" className="quiet" onClick={() => file.current?.click()}>
          Take runs from a file
        </button>
        <input
          ref={file}
          type="file"
          accept="application/json,.json"
          className="visually-hidden"
          aria-label="File of runs"
          onChange={(event) => {
            const chosen = event.target.files?.[0]
            event.target.value = ''
            if (chosen)
              void chosen
                .text()
                .then((text) => acts.importRuns(text))
                .catch(() => undefined)
          }}
        />
        {record.runs.length > 0 && (
          <button
            type="button"
            className="quiet"
            onClick={() =>
              save(
                record.runs.map((run) => run.facts),
                'own',
              )
            }
          >
            Save this job’s runs
          </button>
        )}
      </div>
      <table className="order-groups">
        <thead>
          <tr>
            <th>Device</th>
            <th>Run</th>
            <th>Walk it</th>
          </tr>
        </thead>
        <tbody>
          {job.devices.slice(0, 200).map((device) => {
            const { way } = settingOf(job, device)
            const fitting = runs.filter((run) => runFits(run, device.kind, way))
            const own = runOfDevice(job, record, device)
            return (
              <tr key={device.id}>
                <th scope="row">{device.tag}</th>
                <td>
                  <select
                    className="input"
                    aria-label={`Run of ${device.tag}`}
                    value={own?.id ?? ''}
                    onChange={(event) => choose(device.id, event.target.value)}
                  >
                    {!own && <option value="">none fits its kind</option>}
                    {fitting.map((run) => (
                      <option key={run.id} value={run.id}>
                        {run.name}
                      </option>
                    ))}
                  </select>
                  {own && (
                    <button type="button" className="plain" onClick={() => setShown(own)}>
                      Look
                    </button>
                  )}
                </td>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Walk ${device.tag}`}
                    checked={!record.settings.leftOut.includes(device.id)}
                    onChange={(event) => leave(device.id, !event.target.checked)}
                  />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {shown && (
        <RunDialog
          run={shown}
          own={record.runs.find((run) => run.facts.id === shown.id)}
          acts={acts}
          onSave={save}
          onClose={() => setShown(undefined)}
        />
      )}
    </section>
  )
}

interface RunDialogProps extends Pick<ViewProps, 'acts'> {
  readonly run: RunFacts
  readonly own: ViewProps['record']['runs'][number] | undefined
  readonly onSave: (facts: readonly RunFacts[], name: string) => void
  readonly onClose: () => void
}

function RunDialog({ run, own, acts, onSave, onClose }: RunDialogProps) {
  const copy = () =>
    acts.addRun({ ...run, id: `own-${run.id}`, name: `${run.name}, own` }).then(onClose, () => undefined)
  return (
    <Dialog title={run.name} say={run.about} open onClose={onClose} wide>
      <Problems reason={acts.of('runs').problem} />
      <ol className="run-steps">
        {run.steps.map((step) => (
          <li key={step.id}>
            <span className="note">
              {step.phase}, {step.kind}
              {step.protects ? `, protects ${step.protects}` : ''}
            </span>
            <p>{step.say}</p>
          </li>
        ))}
      </ol>
      <div className="step-acts">
        {own ? (
          <button
            type="button"
            className="quiet"
            onClick={() => void acts.removeRun(own.id, own.version).then(onClose, () => undefined)}
          >
            Remove it
          </button>
        ) : (
          <button type="button" className="quiet" onClick={() => void copy()}>
            Copy into this job
          </button>
        )}
        <button
          type="button"
          className="quiet"
          onClick={() => onSave([{ ...run, id: own ? run.id : `own-${run.id}` }], run.id)}
        >
          Save as a file
        </button>
      </div>
    </Dialog>
  )
}
