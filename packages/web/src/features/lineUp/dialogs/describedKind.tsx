import {
  descriptionFormats,
  kindOfDescription,
  MOST_BYTES,
  readDescription,
  tooLarge,
  type DeviceDescription,
} from '@calm/core/description'
import { freeKindId, type Job } from '@calm/core/job'
import { kindFacts, kindsOf, type DeviceKindFacts } from '@calm/core/kind'
import { rateText } from '@calm/core/terms'
import { refuse } from '@calm/core/units'
import { useState } from 'react'
import { ProblemError } from '../../../api'
import { Button, Choice, Field, formActions } from '../../../ui'

/** The kinds that a device of this format is most like. */
const like: Readonly<Record<DeviceDescription['format'], string>> = {
  cip: 'remote-io',
  can: 'analog-io',
  'type-3': 'remote-io',
}

/** Reads a description file; what cannot be taken is thrown with every line of it. */
export async function descriptionOf(file: File): Promise<DeviceDescription> {
  // Told before it is read: a file of this size would hold the page.
  const read = file.size > MOST_BYTES ? refuse([tooLarge(file.size)]) : readDescription(await file.text())
  if (read.ok) return read.value
  throw new ProblemError(
    422,
    read.refusal.slice(0, 12).map(({ what, expected, found }) => ({ what, where: '', expected, found })),
  )
}

interface DescribedProps {
  readonly job: Job
  readonly described: DeviceDescription
  readonly onTake: (kind: DeviceKindFacts) => void
  readonly onLeave: () => void
}

const counted = (bytes: number | undefined) =>
  bytes === undefined ? 'not said' : `${bytes} byte${bytes === 1 ? '' : 's'}`

/** What a description file says, and a kind of the job made of it. */
export function DescribedKind({ job, described, onTake, onLeave }: DescribedProps) {
  const [name, setName] = useState(described.product.slice(0, 60) || 'Described device')
  const [likeId, setLikeId] = useState(like[described.format])
  const { inputBytes, outputBytes, modules, remarks } = described
  const rows: readonly (readonly [string, string])[] = [
    ['Format', descriptionFormats[described.format].name],
    ['Vendor', described.vendor],
    ['Identity', described.identity ?? ''],
    ['Order code', described.orderCode ?? ''],
    ['Revision of the device', described.revision ?? ''],
    ['Revision of the file', described.fileRevision ?? ''],
    ['Node', described.node === undefined ? '' : String(described.node)],
    ['Bit rates', described.rates.map(rateText).join(', ')],
    [
      described.isModular ? 'Inputs and outputs at most' : 'Inputs and outputs',
      `${counted(inputBytes)}, ${counted(outputBytes)}`,
    ],
    ['Fastest', described.fastestMs === undefined ? '' : `${described.fastestMs} ms`],
    [
      'Modules',
      modules.length === 0
        ? ''
        : `${modules.length}${described.mostModules === undefined ? '' : `, at most ${described.mostModules} plugged`}`,
    ],
  ]
  return (
    <section aria-label="Description file" className="my-3 border-t-2 border-ink pt-3">
      <dl className="grid grid-cols-[190px_1fr] gap-x-4 gap-y-0.5 text-row">
        {rows.flatMap(([what, text]) =>
          text === ''
            ? []
            : [
                <div key={what} className="contents">
                  <dt className="text-ink-soft">{what}</dt>
                  <dd>{text}</dd>
                </div>,
              ],
        )}
      </dl>
      {modules.length > 0 && (
        <ul className="mt-2 max-h-36 overflow-auto text-note" aria-label="Modules">
          {modules.map((module) => (
            <li key={module.line}>
              {module.name}: {counted(module.inputBytes)} in, {counted(module.outputBytes)} out
            </li>
          ))}
        </ul>
      )}
      {remarks.map(({ line, what }) => (
        <p key={`${line} ${what}`} className="note">
          Line {line}: {what}
        </p>
      ))}
      <div className="mt-3 grid grid-cols-2 gap-x-4 gap-y-3">
        <Field label="Name of the kind" value={name} onChange={setName} />
        <Choice
          label="Else like"
          value={likeId}
          choices={kindsOf(job.kinds).map((kind) => ({ value: kind.id, label: kind.name }))}
          onChange={setLikeId}
        />
      </div>
      <div className={formActions}>
        <Button
          look="act"
          disabled={name.trim().length < 2}
          onClick={() =>
            onTake(kindOfDescription(described, kindFacts(likeId, job.kinds), freeKindId(job, name), name.trim()))
          }
        >
          Make it a kind of this job
        </Button>
        <Button look="plain" onClick={onLeave}>
          Leave it
        </Button>
      </div>
    </section>
  )
}
