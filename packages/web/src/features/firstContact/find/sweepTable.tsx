import { devicesOfAnswers, sweepVerdicts, type SweepLine } from '@calm/core/procedure'
import type { Job } from '@calm/core/job'
import { newId } from '../../../api'
import { useEdit } from '../../../edit'
import { Button, cn, DataTable, Glyph, Problems, type TableColumn } from '../../../ui'

const marks = {
  expected: 'proven',
  silent: 'not-started',
  unknown: 'at-odds',
  twice: 'at-odds',
  'still-old': 'in-hand',
} as const

const columns: readonly TableColumn<SweepLine>[] = [
  {
    id: 'address',
    head: 'Address',
    names: true,
    className: 'font-typed',
    cell: ({ address }) => address,
    sort: ({ address }) => address,
  },
  {
    id: 'verdict',
    head: 'Verdict',
    sort: ({ verdict }) => sweepVerdicts[verdict],
    cell: ({ verdict }) => (
      <span className={cn('inline-flex items-center gap-1.5', marks[verdict] === 'at-odds' && 'font-firm text-odds')}>
        <Glyph state={marks[verdict]} size={14} /> {sweepVerdicts[verdict]}
      </span>
    ),
  },
  { id: 'device', head: 'Device', cell: ({ tags }) => tags.join(', '), sort: ({ tags }) => tags.join(', ') },
  {
    id: 'says',
    head: 'It says',
    className: 'note',
    cell: ({ answer }) =>
      answer &&
      `${[...answer.identities, ...answer.ports.map((port) => `port ${port}`)].join('; ')} ${answer.hardwareAddress ?? ''}`,
  },
]

/** What a search found; each that nobody planned becomes a device in one step. */
export function SweepTable({ job, lines }: { job: Job; lines: readonly SweepLine[] }) {
  const edit = useEdit(job)
  const changes = devicesOfAnswers(job, lines, newId)
  const count = changes.filter(({ table }) => table === 'device').length
  const devices = `${count} device${count === 1 ? '' : 's'}`
  return (
    <>
      {count > 0 && (
        <p className="my-2 flex flex-wrap items-center gap-3">
          <Button look="act" onClick={() => edit.attempt(edit.change(`${devices} taken in from a search.`, changes))}>
            Take {devices} into the line-up
          </Button>
          <span className="note">Tag and kind are guesses: put them right in the line-up.</span>
        </p>
      )}
      <Problems reason={edit.problem} />
      <DataTable
        name="sweep"
        caption="Who answered"
        className="max-w-245"
        rows={lines}
        keyOf={({ address }) => address}
        columns={columns}
      />
      {lines.length === 0 && <p className="py-1.5">Nobody answered, and nobody is planned there.</p>}
    </>
  )
}
