import { runFileOf } from '@calm/contract/runFile'
import { settingOf } from '@calm/core/job'
import { placeOf, runFits, runOfDevice, runsOf, type RunFacts } from '@calm/core/procedure'
import { useState } from 'react'
import { Button, Checkbox, Choice, DataTable, Dialog, FilePicker, Problems, saveJson, Scroll } from '../../../ui'
import type { ViewProps } from '../viewProps'

/** Which run each device is walked by; runs copied, taken from a file, and saved to one. */
export function RunChoices({ job, record, acts }: Pick<ViewProps, 'job' | 'record' | 'acts'>) {
  const [shown, setShown] = useState<RunFacts | undefined>(undefined)
  const runs = runsOf(record.runs)
  const rows = job.devices.slice(0, 200).map((device) => {
    const { way } = settingOf(job, device)
    return {
      device,
      own: runOfDevice(job, record, device),
      fitting: runs.filter((run) => runFits(run, device.kind, way, placeOf(job, device))),
    }
  })
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
  const save = (facts: readonly RunFacts[], name: string) => saveJson(`${name}.runs.json`, runFileOf(facts))
  return (
    <section aria-label="Runs">
      <h2 className="mt-2">Runs</h2>
      <div className="flex flex-wrap items-center gap-2.5">
        <FilePicker
          label="File of runs"
          accept="application/json,.json"
          onFile={(file) =>
            void file
              .text()
              .then((text) => acts.importRuns(text))
              .catch(() => undefined)
          }
        >
          Take runs from a file
        </FilePicker>
        {record.runs.length > 0 && (
          <Button
            onClick={() =>
              save(
                record.runs.map((run) => run.facts),
                'own',
              )
            }
          >
            Save this job’s runs
          </Button>
        )}
      </div>
      <DataTable
        name="runs"
        caption="Runs of the devices"
        className="mt-2 mb-6 w-auto"
        rows={rows}
        keyOf={({ device }) => device.id}
        columns={[
          {
            id: 'device',
            head: 'Device',
            names: true,
            cell: ({ device }) => device.tag,
            sort: ({ device }) => device.tag,
          },
          {
            id: 'run',
            head: 'Run',
            cell: ({ device, own, fitting }) => (
              <span className="flex items-center gap-2">
                <Choice
                  hideLabel
                  className="w-75"
                  label={`Run of ${device.tag}`}
                  value={own?.id ?? ''}
                  choices={[
                    ...(own ? [] : [{ value: '', label: 'none fits its kind' }]),
                    ...fitting.map(({ id, name }) => ({ value: id, label: name })),
                  ]}
                  onChange={(runId) => runId !== '' && choose(device.id, runId)}
                />
                {own && (
                  <Button look="plain" onClick={() => setShown(own)}>
                    Look
                  </Button>
                )}
              </span>
            ),
          },
          {
            id: 'walk',
            head: 'Walk it',
            cell: ({ device }) => (
              <Checkbox
                hideLabel
                label={`Walk ${device.tag}`}
                checked={!record.settings.leftOut.includes(device.id)}
                onChange={(walked) => leave(device.id, !walked)}
              />
            ),
          },
        ]}
      />
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
    <Dialog title={run.name} say={run.about} open onClose={onClose} room="wide">
      <Problems reason={acts.of('runs').problem} />
      <Scroll label="Steps of the run" className="my-3 max-h-[56vh]">
        <ol className="grid gap-2">
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
      </Scroll>
      <div className="flex flex-wrap items-center gap-2.5">
        {own ? (
          <Button onClick={() => void acts.removeRun(own.id, own.version).then(onClose, () => undefined)}>
            Remove it
          </Button>
        ) : (
          <Button onClick={() => void copy()}>Copy into this job</Button>
        )}
        <Button onClick={() => onSave([{ ...run, id: own ? run.id : `own-${run.id}` }], run.id)}>Save as a file</Button>
      </div>
    </Dialog>
  )
}
