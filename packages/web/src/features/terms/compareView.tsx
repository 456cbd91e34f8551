import { kindFacts } from '@calm/core/kind'
import {
  individualTerms,
  termMatrixOf,
  type Handshake,
  type Job,
  type MatrixCell,
  type MatrixRow,
} from '@calm/core/job'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { Button, Checkbox, cn, DataTable, Glyph, Problems, type TableColumn } from '../../ui'
import { ChangeManyForm } from './changeManyForm'
import { openDefaultsOf, useStandings } from './useStandings'

const isOdd = ({ state, mostHave }: MatrixCell) => state === 'at-odds' || state === 'refused' || mostHave !== undefined

/** All handshakes by terms: which one of many is different, at a glance. */
export function CompareView({ job }: { readonly job: Job }) {
  const matrix = useMemo(() => termMatrixOf(job), [job])
  const [onlyOdd, setOnlyOdd] = useState(false)
  const odd = matrix.rows.filter(({ cells }) => cells.some(isOdd))
  const rows = onlyOdd ? odd : matrix.rows
  const settable = matrix.columns.filter(({ id }) => !individualTerms.includes(id))
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
      <SayMany job={job} handshakes={rows.map(({ handshake }) => handshake)} />
      <ChangeManyForm job={job} columns={settable} handshakes={rows.map(({ handshake }) => handshake)} />
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

/** Many devices entered, or seen in force, as they are planned, in one press. */
function SayMany({ job, handshakes }: { job: Job; handshakes: readonly Handshake[] }) {
  const standings = useStandings(job)
  const atDefault = useMemo(
    () => handshakes.reduce((sum, handshake) => sum + openDefaultsOf(job, handshake).length, 0),
    [job, handshakes],
  )
  const count = `${handshakes.length} device${handshakes.length === 1 ? '' : 's'}`
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      <Button onClick={() => standings.sayAll(handshakes, 'device', 'entered')}>
        All of these {count} entered as planned
      </Button>
      <Button onClick={() => standings.sayAll(handshakes, 'device', 'in-force')}>All in force as planned</Button>
      {atDefault > 0 && (
        <Button onClick={() => standings.leftAtDefault(handshakes)}>
          {atDefault} term{atDefault === 1 ? '' : 's'} left at default
        </Button>
      )}
      <Problems reason={standings.problem} />
    </div>
  )
}

/** What the device says; where the controller says something else, that above it. */
function Cell({ cell }: { readonly cell: MatrixCell | undefined }) {
  if (!cell || cell.state === 'none') return <span className="text-ink-faint">–</span>
  const { state, controller, device, mostHave } = cell
  const isAtOdds = state === 'at-odds' || state === 'refused'
  const both = [controller || 'not known', device || 'not known']
  if (state === 'unknown')
    return <span className="text-ink-soft">{device || controller || 'not known'}, one end open</span>
  return (
    <span className={cn('flex items-start gap-1 font-typed font-medium', isAtOdds && 'text-odds')}>
      {isAtOdds && <Glyph state="at-odds" size={14} label />}
      <span>
        {(controller === device ? [device] : both).map((text, place) => (
          <span key={place} className="block">
            {text}
          </span>
        ))}
        {mostHave !== undefined && <b className="block font-text text-odds">most have {mostHave}</b>}
      </span>
    </span>
  )
}
