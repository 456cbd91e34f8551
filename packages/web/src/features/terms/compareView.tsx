import { kindFacts } from '@calm/core/kind'
import { termMatrixOf, type Job, type MatrixCell, type MatrixRow } from '@calm/core/job'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { Checkbox, DataTable, Glyph, type TableColumn } from '../../ui'

const isOdd = ({ state, mostHave }: MatrixCell) => state === 'at-odds' || state === 'refused' || mostHave !== undefined

/** All handshakes by terms: which one of many is different, at a glance. */
export function CompareView({ job }: { readonly job: Job }) {
  const matrix = useMemo(() => termMatrixOf(job), [job])
  const [onlyOdd, setOnlyOdd] = useState(false)
  const odd = matrix.rows.filter(({ cells }) => cells.some(isOdd))
  const rows = onlyOdd ? odd : matrix.rows
  const columns = useMemo(
    (): readonly TableColumn<MatrixRow>[] => [
      {
        id: 'device',
        head: 'Device',
        names: true,
        width: 132,
        sort: ({ device }) => device,
        cell: ({ handshake, device, kind }) => (
          <>
            <Link className="font-firm" to={`/jobs/${job.id}/terms/${handshake.id}`}>
              {device}
            </Link>
            <span className="block note">{kindFacts(kind, job.kinds).name}</span>
          </>
        ),
      },
      ...matrix.columns.map(({ id, name }, index): TableColumn<MatrixRow> => ({
        id,
        head: name,
        sort: ({ cells }) => cells[index]?.device ?? '',
        cell: ({ cells }) => <Cell cell={cells[index]} />,
      })),
    ],
    [job, matrix],
  )
  return (
    <div className="min-h-0 overflow-auto px-5 pb-4">
      <p className="mb-2 flex flex-wrap items-center gap-x-6 gap-y-1.5">
        <span role="status">
          {odd.length} of {matrix.rows.length} {odd.length === 1 ? 'has' : 'have'} a term at odds, or another value than
          most of their kind.
        </span>
        <Checkbox label="Only these" checked={onlyOdd} onChange={setOnlyOdd} />
      </p>
      <DataTable
        name="terms of all"
        caption="Handshakes by terms"
        columns={columns}
        rows={rows}
        keyOf={({ handshake }) => handshake.id}
      />
    </div>
  )
}

/** What the device says; where the controller says something else, that above it. */
function Cell({ cell }: { readonly cell: MatrixCell | undefined }) {
  if (!cell || cell.state === 'none') return <span className="text-ink-faint">–</span>
  const { state, controller, device, mostHave } = cell
  if (state === 'at-odds' || state === 'refused')
    return (
      <span className="flex items-start gap-1 font-typed font-medium text-odds">
        <Glyph state="at-odds" size={14} label />
        <span>
          <span className="block">{controller || 'not known'}</span>
          <span className="block">{device || 'not known'}</span>
        </span>
      </span>
    )
  if (state === 'unknown')
    return <span className="text-ink-soft">{device || controller || 'not known'}, one end open</span>
  return (
    <span className="font-typed font-medium">
      {device}
      {mostHave !== undefined && <b className="block font-text text-odds">most have {mostHave}</b>}
    </span>
  )
}
