import { useMemo } from 'react'
import { requestKinds, requestState, requestStateWords, type AskedOfOthers, type Job } from '@calm/core/job'
import type { RungState } from '@calm/core/ladder'
import { Plus, Printer } from 'lucide-react'
import { Button, DataTable, Glyph, type TableColumn } from '../../../ui'
import type { Dialogs } from '../dialogs'
import { today } from './today'

interface ViewProps {
  readonly head: React.ReactNode
  readonly job: Job
  readonly dialogs: Dialogs
  readonly onPick: (deviceId: string) => void
}

const marks: Readonly<Record<ReturnType<typeof requestState>, RungState>> = {
  'not-asked': 'not-started',
  asked: 'waiting',
  late: 'at-odds',
  answered: 'proven',
}
const ORDER = ['late', 'asked', 'not-asked', 'answered'] as const

/** What only others can give: late ones first. Printed, it is a sheet to send. */
export function AskedView({ head, job, dialogs, onPick }: ViewProps) {
  const day = today()
  const list = [...job.requests].sort(
    (a, b) => ORDER.indexOf(requestState(a, day)) - ORDER.indexOf(requestState(b, day)),
  )
  const columns = useMemo(
    (): readonly TableColumn<AskedOfOthers>[] => [
      {
        id: 'state',
        head: 'State',
        width: 110,
        cell: (request) => {
          const state = requestState(request, day)
          return (
            <span className="inline-flex items-center gap-1.5">
              <Glyph state={marks[state]} size={15} /> {requestStateWords[state]}
            </span>
          )
        },
      },
      {
        id: 'what',
        head: 'What',
        names: true,
        cell: (request) => (
          <>
            <Button
              className="p-0 text-left whitespace-normal"
              look="plain"
              onClick={() => dialogs.open({ kind: 'request', request })}
            >
              {request.what}
            </Button>
            <span className="block note font-read">{requestKinds[request.about].name}</span>
          </>
        ),
      },
      { id: 'whom', head: 'Of whom', cell: ({ toWhom }) => toWhom, sort: ({ toWhom }) => toWhom },
      {
        id: 'asked',
        head: 'Asked',
        className: 'whitespace-nowrap font-typed',
        cell: ({ askedOn }) => askedOn ?? '–',
        sort: ({ askedOn }) => askedOn ?? '',
      },
      {
        id: 'due',
        head: 'Needed by',
        className: 'whitespace-nowrap font-typed',
        cell: ({ dueOn }) => dueOn ?? '–',
        sort: ({ dueOn }) => dueOn ?? '',
      },
      {
        id: 'devices',
        head: 'Devices that wait',
        cell: ({ deviceIds }) => (
          <span className="flex flex-wrap gap-x-2">
            {job.devices
              .filter(({ id }) => deviceIds.includes(id))
              .map(({ id, tag }) => (
                <Button className="min-h-6 p-0" key={id} look="plain" onClick={() => onPick(id)}>
                  {tag}
                </Button>
              ))}
          </span>
        ),
      },
      { id: 'answer', head: 'Answer', className: 'max-w-65 whitespace-pre-line', cell: ({ answer }) => answer },
    ],
    [day, dialogs, job.devices, onPick],
  )
  return (
    <section className="col-span-full [grid-row:1_/_-1] min-w-0 overflow-auto px-5 pb-5" aria-label="Asked of others">
      <div className="sticky top-0 z-6 flex min-h-13 flex-wrap items-center gap-0 bg-sheet pr-3.5 print:hidden">
        {head}
        <div className="flex min-h-9.5 w-full items-center gap-2.5 pb-1 print:hidden">
          <Button onClick={() => dialogs.open({ kind: 'request' })}>
            <Plus size={16} aria-hidden /> Ask somebody
          </Button>
          <Button look="plain" onClick={() => window.print()}>
            <Printer size={15} aria-hidden /> Print the sheet
          </Button>
        </div>
      </div>
      <h2 className="hidden print:block">
        {job.name}, {job.place}: asked on {day}
      </h2>
      {list.length === 0 && <p className="mt-4 text-ink-soft">Nothing is asked of others.</p>}
      <DataTable name="asked" caption="Asked of others" rows={list} keyOf={(request) => request.id} columns={columns} />
    </section>
  )
}
