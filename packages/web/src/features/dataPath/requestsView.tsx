import { readForbidden } from '@calm/core/packing'
import type { Handshake, Job } from '@calm/core/job'
import { functionText, tables, type Table } from '@calm/core/modbus'
import type { PackedRequest } from '@calm/core/packing'
import { packingOf, placesOf, writesOf, type DevicePacking } from '@calm/core/points'
import { ok, parseWholeNumber } from '@calm/core/units'
import { useMemo } from 'react'
import { AgePanel } from './agePanel'
import { MemoryPanel } from './memoryPanel'
import { TablesToTake } from './tablesToTake'
import type { JobEdit } from '../../edit'
import { Checkbox, DataTable, Editable, Glyph, tip, type TableColumn } from '../../ui'

/** How the points of a device are read with the fewest requests, and the tables for both ends. */
export function RequestsView({ job, handshake, edit }: { job: Job; handshake: Handshake; edit: JobEdit }) {
  const packed = useMemo(() => packingOf(job, handshake), [job, handshake])
  const { packing } = packed
  const names = useMemo(() => new Map(handshake.points.map((point) => [point.id, point.quantity])), [handshake.points])
  const present = (Object.keys(tables) as Table[]).filter((table) =>
    packing.requests.some((each) => each.table === table),
  )
  return (
    <div className="grid gap-4">
      <p className="text-lead" role="status">
        {sayPacking(packed)}
      </p>
      <div className="-mt-2 grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-3">
        <span className="note">Addresses that must not be read</span>
        <Editable
          label="Addresses that must not be read"
          text={handshake.unreadable}
          typed
          read={(text) => readForbidden(text, present[0] ?? 'holding-registers')}
          onSave={(unreadable) => edit.set('Addresses not to be read changed.', 'handshake', handshake, { unreadable })}
        />
      </div>
      <div className="-mt-2 grid grid-cols-[auto_150px_auto_minmax(0,1fr)] items-baseline gap-x-3 max-tablet:grid-cols-2">
        <span className="note">Highest address</span>
        <Editable
          label="Highest address"
          text={handshake.lastAddress === null ? '' : String(handshake.lastAddress)}
          typed
          read={(text) =>
            text.trim() === '' ? ok(null) : parseWholeNumber(text, { name: 'Highest address', min: 0, max: 65_535 })
          }
          onSave={(text) =>
            edit.set('Highest address changed.', 'handshake', handshake, {
              lastAddress: text.trim() === '' ? null : Number(text),
            })
          }
        />
        <span className="note">Registers read alone</span>
        <Editable
          label="Registers read alone"
          text={handshake.alone}
          typed
          read={(text) => readForbidden(text, present[0] ?? 'holding-registers')}
          onSave={(alone) => edit.set('Registers read alone changed.', 'handshake', handshake, { alone })}
        />
      </div>
      <Checkbox
        label="Longer values only at even addresses"
        checked={handshake.evenOnly}
        onChange={(evenOnly) =>
          edit.attempt(edit.set('Addresses of longer values changed.', 'handshake', handshake, { evenOnly }))
        }
      />
      {present.map((table) => (
        <Strip key={table} job={job} handshake={handshake} table={table} requests={packing.requests} />
      ))}
      {packing.requests.length > 0 && (
        <DataTable
          name="requests"
          caption="Requests"
          columns={columnsOf(names)}
          rows={packing.requests}
          keyOf={(request) => `${request.table} ${request.first} ${request.count} ${request.pollMs}`}
        />
      )}
      {(packing.never.length > 0 || packed.unplaced.length > 0) && (
        <ul className="grid gap-1" aria-label="Not read">
          {packing.never.map(({ id, why }) => (
            <li key={id} className="grid grid-cols-[18px_1fr] gap-1.5">
              <Glyph state={isWritten(handshake, id) ? 'not-apply' : 'at-odds'} size={14} />
              <span>
                <b className="font-heavy">{names.get(id)}</b> is in no request. {why}
              </span>
            </li>
          ))}
          {packed.unplaced.map(({ point, why }) => (
            <li key={point.id} className="grid grid-cols-[18px_1fr] gap-1.5">
              <Glyph state="not-started" size={14} />
              <span>
                <b className="font-heavy">{point.quantity}</b> has no place: {why}
              </span>
            </li>
          ))}
        </ul>
      )}
      {(packing.requests.length > 0 || handshake.points.some(({ access }) => access !== 'read')) && (
        <MemoryPanel
          requests={packing.requests}
          writes={writesOf(handshake, placesOf(job, handshake))}
          handshake={handshake}
          edit={edit}
        />
      )}
      <AgePanel handshake={handshake} edit={edit} />
      <TablesToTake job={job} handshake={handshake} packed={packed} edit={edit} />
    </div>
  )
}

/** What only goes to the device is rightly in no read. */
const isWritten = ({ points }: Handshake, id: string): boolean =>
  points.some((point) => point.id === id && point.access === 'write')

const round = (value: number) => String(Number(value.toPrecision(3)))

/** What the packing comes to, and how far it is proven. */
function sayPacking({ packing, unit }: DevicePacking): string {
  const count = packing.requests.reduce((sum, { carries }) => sum + carries.length, 0)
  if (count === 0) return 'Nothing can be read yet: no point has a place.'
  const cost =
    unit === 'ms'
      ? `${round(packing.before)} ms of the line in each second one by one, ${round(packing.after)} ms packed`
      : `${round(packing.before)} requests a second one by one, ${round(packing.after)} packed`
  const proof = packing.isCheapest
    ? 'No other way to share them out costs less.'
    : 'There are too many ways to compare: it is packed rate by rate, and another way may cost less.'
  return `${count} point${count === 1 ? '' : 's'} in ${packing.requests.length} request${packing.requests.length === 1 ? '' : 's'}: ${cost}. ${proof}`
}

const columnsOf = (names: ReadonlyMap<string, string>): readonly TableColumn<PackedRequest>[] => [
  { id: 'function', head: 'Function', cell: ({ table }) => functionText(tables[table].readBy), width: 190 },
  { id: 'first', head: 'First address', cell: ({ first }) => first, width: 110 },
  { id: 'count', head: 'Count', cell: ({ count }) => count, width: 80 },
  { id: 'every', head: 'Every', cell: ({ pollMs }) => `${pollMs} ms`, width: 100 },
  {
    id: 'carries',
    head: 'Carries',
    cell: ({ carries }) => carries.map((id) => names.get(id) ?? id).join(', '),
    width: 400,
  },
]

interface StripProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly table: Table
  readonly requests: readonly PackedRequest[]
}

/** The addresses of a table from left to right: what each request reads, and which of it somebody wants. */
function Strip({ job, handshake, table, requests }: StripProps) {
  const own = requests.filter((each) => each.table === table)
  const first = Math.min(...own.map((each) => each.first))
  const end = Math.max(...own.map((each) => each.first + each.count))
  const places = placesOf(job, handshake)
  const at = (address: number) => `${(100 * (address - first)) / (end - first)}%`
  const unit = tables[table].bits === 1 ? 'bits' : 'registers'
  const wanted = handshake.points.flatMap((point, k) => {
    const place = places[k]
    return place && !('missing' in place) && place.table === table ? [{ point, place }] : []
  })
  const read = own.reduce((sum, { count }) => sum + count, 0)
  return (
    <figure aria-label={`${tables[table].name}s from ${first} to ${end - 1}`}>
      <figcaption className="note">
        {tables[table].name}s {first} to {end - 1}: {read} {unit} are read,{' '}
        {wanted.reduce((sum, { place }) => sum + place.size, 0)} of them are wanted
      </figcaption>
      <div className="relative mt-1 h-11 border-b border-rule-strong">
        {own.map((request) => (
          <span
            key={`${request.first} ${request.pollMs}`}
            {...tip(`${request.count} from ${request.first}, every ${request.pollMs} ms`)}
            className="absolute top-0 h-4 min-w-1 bg-ink-faint"
            style={{ left: at(request.first), width: `${(100 * request.count) / (end - first)}%` }}
          />
        ))}
        {wanted.map(({ point, place }) => (
          <span
            key={point.id}
            {...tip(`${point.quantity}: ${place.size} from ${place.address}`)}
            className="absolute top-5 h-5 min-w-0.5 border-r border-sheet bg-proven"
            style={{ left: at(place.address), width: `${(100 * place.size) / (end - first)}%` }}
          />
        ))}
      </div>
    </figure>
  )
}
