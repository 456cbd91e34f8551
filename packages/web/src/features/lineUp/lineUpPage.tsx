import type { RungState } from '@calm/core/ladder'
import { rungStateWords } from '@calm/core/ladder'
import { Plus, Undo2 } from 'lucide-react'
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { usePageKeys, useStage } from '../../shell'
import { Glyph } from '../../ui'
import { AddressTape } from './addressTape'
import { DeviceTable } from './deviceTable'
import { linesOf } from './lines'
import { SidePanel } from './sidePanel'
import { useLineUp } from './useLineUp'

// Forms bring the schemas with them; they load when they are opened.
const AddDevice = lazy(() => import('./addDevice'))
const PasteDevices = lazy(() => import('./pasteDevices'))
const NetworkDialog = lazy(() => import('./networkDialog'))

const SIFTED: readonly RungState[] = ['at-odds', 'waiting', 'in-hand', 'not-started', 'proven', 'parked']

/** The line-up: devices and networks, findings beside the row, and the tape of addresses. */
export function LineUpPage() {
  const { job, findings } = useStage()
  const lineUp = useLineUp(job)
  const [search, setSearch] = useSearchParams()
  const [adding, setAdding] = useState(false)
  const [pasting, setPasting] = useState(false)
  const [network, setNetwork] = useState<{ id: string | undefined } | undefined>(undefined)
  const main = useRef<HTMLElement>(null)
  // State, not a ref: the table must hear when what scrolls it is there, which is after its own first effects.
  const [scroller, setScroller] = useState<HTMLElement | null>(null)
  const lines = useMemo(() => linesOf(job, findings), [job, findings])
  const sift = search.get('show')
  const shown = sift ? lines.filter((line) => line.state === sift) : lines
  const selectedId = search.get('device') ?? undefined
  const selected = lines.find((line) => line.device.id === selectedId)
  const put = (name: string, value: string | undefined) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before)
        if (value === undefined) next.delete(name)
        else next.set(name, value)
        return next
      },
      { replace: true },
    )
  // The address of the page follows a moment later; a second key press must go on from the line of the first.
  const latest = useRef(selectedId)
  useEffect(() => {
    latest.current = selectedId
  }, [selectedId])
  const select = (deviceId: string) => {
    latest.current = deviceId
    put('device', deviceId)
  }

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
    A: () => setAdding(true),
    P: () => setPasting(true),
    Enter: () => main.current?.querySelector<HTMLElement>(`[data-device="${selectedId}"] .goes .cell-edit`)?.click(),
  })
  useUndoKey(() => lineUp.attempt(lineUp.undo()))

  const edited = network?.id === undefined ? undefined : job.networks.find((each) => each.id === network.id)
  return (
    <main className="sheet lu" ref={main} tabIndex={-1}>
      <section className="lu-table" aria-label="Devices" ref={setScroller}>
        <div className="head">
          <h1>Line-up</h1>
          <button type="button" className="quiet" onClick={() => setAdding(true)}>
            <Plus size={16} aria-hidden /> Add a device
          </button>
          <button type="button" className="plain" onClick={() => setPasting(true)}>
            Paste
          </button>
          <div className="sift" role="group" aria-label="Show only">
            <button type="button" aria-pressed={!sift} onClick={() => put('show', undefined)}>
              <b>{lines.length}</b> all
            </button>
            {SIFTED.map((state) => {
              const count = lines.filter((line) => line.state === state).length
              return count === 0 ? null : (
                <button
                  key={state}
                  type="button"
                  aria-pressed={sift === state}
                  onClick={() => put('show', sift === state ? undefined : state)}
                  title={rungStateWords[state]}
                >
                  <Glyph state={state} size={15} label />
                  <b>{count}</b>{' '}
                  <span className={state === 'at-odds' ? '' : 'visually-hidden'}>{rungStateWords[state]}</span>
                </button>
              )
            })}
          </div>
        </div>
        {lineUp.last && (
          <p className="undo" role="status">
            <span>{lineUp.last.say}</span>
            <button type="button" className="quiet" onClick={() => lineUp.attempt(lineUp.undo())}>
              <Undo2 size={15} aria-hidden /> Undo
            </button>
            <kbd>Ctrl Z</kbd>
          </p>
        )}
        <DeviceTable
          scroller={scroller}
          job={job}
          lines={shown}
          lineUp={lineUp}
          selectedId={selectedId}
          onSelect={select}
        />
        {lines.length === 0 && (
          <p className="soft mt-4">Nothing here yet. Add a network below, then the first device.</p>
        )}
      </section>
      <SidePanel
        job={job}
        line={selected}
        lineUp={lineUp}
        onRemove={() => {
          if (selected) lineUp.attempt(lineUp.remove(selected.device))
          put('device', undefined)
        }}
      />
      <AddressTape
        job={job}
        networkId={search.get('network') ?? selected?.device.ports[0]?.networkId ?? undefined}
        onNetwork={(id) => put('network', id)}
        onPick={select}
        onEdit={(id) => setNetwork({ id })}
        findings={findings.filter((finding) => finding.subject.kind === 'network')}
        onFix={(fix) => lineUp.attempt(lineUp.applyFix(fix))}
      />
      <Suspense>
        {adding && (
          <AddDevice job={job} onClose={() => setAdding(false)} onAdd={(device) => lineUp.add('devices', device)} />
        )}
        {pasting && (
          <PasteDevices job={job} onClose={() => setPasting(false)} onAdd={(batch) => lineUp.addBatch(batch)} />
        )}
        {network && (
          <NetworkDialog
            network={edited}
            onRemove={() => {
              if (edited) lineUp.attempt(lineUp.removeNetwork(edited))
              setNetwork(undefined)
              put('network', undefined)
            }}
            onClose={() => setNetwork(undefined)}
            onSave={(fields) => (edited ? lineUp.editNetwork(edited, fields) : lineUp.add('networks', fields))}
          />
        )}
      </Suspense>
    </main>
  )
}

/** Ctrl Z takes back the last change, unless a field is open: there it belongs to the field. */
function useUndoKey(undo: () => void) {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
      if (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)) return
      event.preventDefault()
      undo()
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  })
}
