import type { Finding } from '@calm/core/findings'
import type { Job } from '@calm/core/job'
import { rungStateWords, type RungState } from '@calm/core/ladder'
import type { DeviceColumnId } from '@calm/core/lineUp'
import { Search } from 'lucide-react'
import { useDeferredValue, useLayoutEffect, useMemo, useRef, useState, type RefObject } from 'react'
import { usePageKeys } from '../../../shell'
import { cn, Glyph, input, Toggles } from '../../../ui'
import { columnSets, type ColumnSet } from './columnSets'
import { DeviceTable } from './deviceTable'
import { EmptyJob } from '../emptyJob'
import type { Dialogs } from '../dialogs'
import { linesOf, type DeviceLine } from './lines'
import { SelectionBar } from './selectionBar'
import { shownLines, sortingOf } from './shownLines'
import { SidePanel } from '../panel'
import { useGrid } from './useGrid'
import type { LineUp } from '../useLineUp'

const SIFTED: readonly RungState[] = ['at-odds', 'waiting', 'in-hand', 'not-started', 'proven', 'parked']

interface ViewProps {
  readonly head: React.ReactNode
  readonly main: RefObject<HTMLElement | null>
  readonly job: Job
  readonly findings: readonly Finding[]
  readonly lineUp: LineUp
  readonly search: URLSearchParams
  readonly put: (changes: Readonly<Record<string, string | undefined>>) => void
  readonly selectedId: string | undefined
  readonly dialogs: Dialogs
}

/** Devices as a sheet of cells, sifted and sorted, with the chosen one beside it. */
export function TableView({ head, main, job, findings, lineUp, search, put, selectedId, dialogs }: ViewProps) {
  // State, not a ref: the table must hear when what scrolls it is there, which is after its own first effects.
  const [scroller, setScroller] = useState<HTMLElement | null>(null)
  const lines = useMemo(() => linesOf(job, findings), [job, findings])
  const state = search.get('show') ?? undefined
  // Kept here while it is typed. The address of the page follows when the field is left: a change of it would cut off
  // the way to another stage.
  const [typed, setTyped] = useState(search.get('q') ?? '')
  const text = useDeferredValue(typed)
  const sorting = useMemo(() => sortingOf(search.get('sort')), [search])
  const columns = columnSets.find((each) => each.id === search.get('columns')) ?? (columnSets[0] as ColumnSet)
  const shown = useMemo(() => shownLines(lines, job, { state, text, sorting }), [lines, job, state, text, sorting])
  const selected = lines.find((line) => line.device.id === selectedId)
  // The address of the page follows a moment later; a second key press must go on from the line of the first.
  const latest = useRef(selectedId)
  const onTheirWay = useRef<string[]>([])
  useLayoutEffect(() => {
    const at = selectedId === undefined ? -1 : onTheirWay.current.indexOf(selectedId)
    onTheirWay.current = at < 0 ? [] : onTheirWay.current.slice(at + 1)
    if (onTheirWay.current.length === 0) latest.current = selectedId
  }, [selectedId])
  const select = (deviceId: string) => {
    if (deviceId !== latest.current) onTheirWay.current.push(deviceId)
    latest.current = deviceId
    put({ device: deviceId })
  }
  const ids: readonly DeviceColumnId[] = ['tag', ...columns.columns.map((each) => each.id)]
  const grid = useGrid({ job, lines: shown, columns: ids, lineUp, selectedId, onSelect: select })

  const step = (by: 1 | -1, fits: (index: number) => boolean = () => true) => {
    const from = shown.findIndex((line) => line.device.id === latest.current)
    for (let k = 1; k <= shown.length; k += 1) {
      const index = (from + by * k + shown.length * 2) % shown.length
      const line = shown[index]
      if (!line || !fits(index)) continue
      select(line.device.id)
      return
    }
  }
  usePageKeys({
    J: () => step(1),
    K: () => step(-1),
    O: () => step(1, (index) => shown[index]?.state === 'at-odds'),
    F: () => main.current?.querySelector<HTMLElement>('[data-fix]')?.focus(),
    A: () => dialogs.open({ kind: 'device' }),
    P: () => dialogs.open({ kind: 'paste' }),
    '/': () => main.current?.querySelector<HTMLElement>('[data-filter]')?.focus(),
    Enter: () =>
      main.current?.querySelector<HTMLElement>(`[data-device="${selectedId}"] [data-col=address] [data-edit]`)?.click(),
  })
  const sortBy = (column: DeviceColumnId) => {
    const next = sorting?.column !== column ? column : sorting.down ? undefined : `${column}.down`
    put({ sort: next })
  }
  const removeChosen = () =>
    lineUp.attempt(
      lineUp.change(
        `${grid.chosen.length} devices removed.`,
        grid.chosen.map(({ id, version }) => ({ op: 'remove', table: 'device', id, version })),
      ),
    )
  return (
    <>
      <section
        className="min-w-0 [scroll-padding-top:76px] overflow-auto pb-3 pl-5 [grid-area:table]"
        aria-label="Devices"
        ref={setScroller}
      >
        <div className="sticky top-0 z-6 flex min-h-13 flex-wrap items-center gap-0 bg-sheet pr-3.5">
          {head}
          <div className="flex min-h-9.5 w-full flex-wrap items-center gap-2.5 pb-1" hidden={lines.length === 0}>
            <ColumnSets shown={columns.id} onShow={(id) => put({ columns: id === 'plan' ? undefined : id })} />
            <label className="flex items-center gap-1.5 text-ink-soft">
              <Search size={15} aria-hidden />
              <input
                data-filter
                className={cn(input({ size: 'small' }), 'w-29.5')}
                type="search"
                aria-label="Filter devices"
                placeholder="Filter"
                value={typed}
                onChange={(event) => setTyped(event.target.value)}
                onBlur={() => typed !== (search.get('q') ?? '') && put({ q: typed })}
                onKeyDown={(event) => event.key === 'Escape' && setTyped('')}
              />
            </label>
            <Sift lines={lines} shown={state} onShow={(next) => put({ show: next })} />
          </div>
        </div>
        {lines.length === 0 ? (
          <EmptyJob job={job} dialogs={dialogs} />
        ) : (
          <DeviceTable
            scroller={scroller}
            job={job}
            lines={shown}
            columns={columns}
            grid={grid}
            lineUp={lineUp}
            selectedId={selectedId}
            sorting={sorting}
            onSort={sortBy}
          />
        )}
        <SelectionBar
          grid={grid}
          onPropose={() => dialogs.open({ kind: 'renumber', deviceIds: grid.chosen.map((device) => device.id) })}
          onRemove={() => {
            removeChosen()
            grid.clear()
          }}
        />
        {lines.length > 0 && shown.length === 0 && <p className="mt-4 text-ink-soft">No device fits the filter.</p>}
      </section>
      <SidePanel
        job={job}
        line={selected}
        lineUp={lineUp}
        dialogs={dialogs}
        onRemove={() => {
          if (selected) lineUp.attempt(lineUp.remove(selected.device))
          put({ device: undefined })
        }}
      />
    </>
  )
}

function ColumnSets({ shown, onShow }: { shown: string; onShow: (id: string) => void }) {
  return (
    <Toggles
      label="Columns"
      value={shown}
      items={columnSets.map(({ id, name }) => ({ value: id, say: name }))}
      onChange={onShow}
    />
  )
}

interface SiftProps {
  readonly lines: readonly DeviceLine[]
  readonly shown: string | undefined
  readonly onShow: (state: string | undefined) => void
}

/** How many lines are in which state; each shows only those. */
function Sift({ lines, shown, onShow }: SiftProps) {
  const states = SIFTED.map((state) => ({ state, count: lines.filter((line) => line.state === state).length }))
  return (
    <Toggles
      label="Show only"
      className="ml-auto"
      value={shown ?? 'all'}
      blank="all"
      items={[
        {
          value: 'all',
          say: (
            <>
              <b>{lines.length}</b> all
            </>
          ),
        },
        ...states
          .filter(({ count }) => count > 0)
          .map(({ state, count }) => ({
            value: state as string,
            tip: rungStateWords[state],
            say: (
              <>
                <Glyph state={state} size={15} label />
                <b>{count}</b> <span className={cn(state !== 'at-odds' && 'sr-only')}>{rungStateWords[state]}</span>
              </>
            ),
          })),
      ]}
      onChange={(next) => onShow(next === 'all' ? undefined : next)}
    />
  )
}
