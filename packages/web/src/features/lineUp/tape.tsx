import { formatIpv4, formatSubnet } from '@calm/core/address'
import { nodeFamily } from '@calm/core/bus'
import type { Finding, Fix } from '@calm/core/findings'
import { lineMedia, type Device, type Job } from '@calm/core/job'
import { ChevronLeft, ChevronRight, Pencil, Plus } from 'lucide-react'
import { useDeferredValue, useMemo, useState } from 'react'
import { Glyph } from '../../ui'
import { busiestNetwork } from './busiestNetwork'
import type { Dialogs } from './lineUpDialogs'
import { NodeTape } from './nodeTape'
import { TapeDrawing } from './tapeDrawing'
import { tapeOf, type Tape as AddressTape } from './tapeModel'
import { TapeOverview } from './tapeOverview'
import type { LineUp } from './useLineUp'

interface TapeProps {
  readonly job: Job
  /** The network or line that a person chose. */
  readonly shownId: string | undefined
  readonly selected: Device | undefined
  readonly findings: readonly Finding[]
  readonly onShow: (id: string) => void
  readonly onPick: (deviceId: string) => void
  readonly lineUp: LineUp
  readonly dialogs: Dialogs
}

/** The addresses of one network, or the nodes of one line, as a ruler with the key to its marks. */
export function Tape({ job: current, shownId, selected, findings, onShow, onPick, lineUp, dialogs }: TapeProps) {
  // The row that is edited is drawn first; the ruler follows.
  const job = useDeferredValue(current)
  const line = job.lines.find((each) => each.id === shownId)
  const networkId = shownId ?? selected?.ports[0]?.networkId ?? busiestNetwork(job)
  const [window, setWindow] = useState<{ readonly of: string | undefined; readonly index: number }>({
    of: networkId,
    index: 0,
  })
  const index = window.of === networkId ? window.index : 0
  const tape = useMemo(
    () => (networkId && !line ? tapeOf(job, networkId, index) : undefined),
    [job, networkId, line, index],
  )
  const go = (next: number) => setWindow({ of: networkId, index: next })
  const shown = line?.id ?? networkId
  const ownFindings = findings.filter((finding) => finding.subject.kind === 'network' && finding.subject.id === shown)
  return (
    <section className="tape" aria-label="Address tape">
      <div className="tape-head">
        <TapeTabs job={job} shown={shown} findings={findings} onShow={onShow} />
        {tape && (
          <>
            <b className="typed">{formatSubnet(tape.network.subnet)}</b>
            {tape.windowCount > 1 && <WindowSteps tape={tape} onGo={go} />}
            <span className="keys">
              <TapeKey />
            </span>
            <span className="right">{tape.freeCount} free</span>
          </>
        )}
        {line && (
          <>
            <b>{lineMedia[line.medium].name}</b>
            <span className="typed">{line.settings}</span>
            <span>{nodeFamily(line.family).name}</span>
            <span className="keys">
              <TapeKey nodes />
            </span>
          </>
        )}
        <span className="flex">
          {shown && (
            <button
              type="button"
              className="icon-button"
              aria-label={line ? 'Edit line' : 'Edit network'}
              title={line ? 'Edit line' : 'Edit network'}
              onClick={() => dialogs.open({ kind: line ? 'line' : 'network', id: shown })}
            >
              <Pencil size={15} />
            </button>
          )}
          <button
            type="button"
            className="icon-button"
            aria-label="Add a network"
            title="Add a network"
            onClick={() => dialogs.open({ kind: 'network' })}
          >
            <Plus size={17} />
          </button>
        </span>
      </div>
      {ownFindings.map((finding) => (
        <NetworkFinding key={finding.rule} finding={finding} onFix={(fix) => lineUp.attempt(lineUp.applyFix(fix))} />
      ))}
      {tape && tape.windowCount > 1 && <TapeOverview tape={tape} onGo={go} />}
      {tape && <TapeDrawing tape={tape} onPick={onPick} />}
      {line && <NodeTape job={job} line={line} onPick={onPick} />}
      {!tape && !line && (
        <p className="note">There is no network yet. Add one: its block, its gateway, and what is kept back.</p>
      )}
    </section>
  )
}

interface TabsProps {
  readonly job: Job
  readonly shown: string | undefined
  readonly findings: readonly Finding[]
  readonly onShow: (id: string) => void
}

/** Networks first, then lines; those about which something is found carry the mark. */
function TapeTabs({ job, shown, findings, onShow }: TabsProps) {
  const odds = new Set(findings.filter((each) => each.severity !== 'worth-knowing').map((each) => each.subject.id))
  const lineOdds = (lineId: string) =>
    job.devices.some((device) => device.nodes.some((node) => node.lineId === lineId && odds.has(node.id)))
  const tab = (id: string, name: string, atOdds: boolean) => (
    <button key={id} type="button" aria-pressed={id === shown} onClick={() => onShow(id)}>
      {atOdds && <Glyph state="at-odds" size={13} label />}
      {name}
    </button>
  )
  return (
    <>
      <span className="tabs" role="group" aria-label="Network">
        {job.networks.map(({ id, name }) => tab(id, name, odds.has(id)))}
      </span>
      {job.lines.length > 0 && (
        <span className="tabs lines" role="group" aria-label="Line">
          {job.lines.map(({ id, name }) => tab(id, name, lineOdds(id)))}
        </span>
      )}
    </>
  )
}

function WindowSteps({ tape, onGo }: { tape: AddressTape; onGo: (index: number) => void }) {
  return (
    <span className="flex items-center">
      <button
        type="button"
        className="icon-button"
        aria-label="Addresses before"
        disabled={tape.windowIndex === 0}
        onClick={() => onGo(tape.windowIndex - 1)}
      >
        <ChevronLeft size={16} />
      </button>
      <span className="typed">
        {formatIpv4(tape.window.first)} to {formatIpv4(tape.window.last)}
      </span>
      <button
        type="button"
        className="icon-button"
        aria-label="Addresses after"
        disabled={tape.windowIndex === tape.windowCount - 1}
        onClick={() => onGo(tape.windowIndex + 1)}
      >
        <ChevronRight size={16} />
      </button>
    </span>
  )
}

/** The marks of the tape, with what each means. */
const tapeMarks: readonly {
  readonly means: string
  readonly width: number
  readonly className: string
  readonly path: string
}[] = [
  { means: 'sits there', width: 10, className: 't-used', path: 'M2 0H8V14H2Z' },
  { means: 'planned', width: 10, className: 't-plan', path: 'M2.75 .75H7.25V13.25H2.75Z' },
  { means: 'wanted twice', width: 16, className: 't-odds', path: 'M1 0H7V11H1ZM9 3H15V14H9Z' },
  { means: 'found here, moving out', width: 12, className: 't-here', path: 'M6 1l4 6-4 6-4-6z' },
  { means: 'reserved', width: 10, className: 't-res', path: 'M1 3H4V14H1ZM5 3H8V14H5Z' },
]

/** Marks that stand for nodes too. */
const ON_LINES = 2

function TapeKey({ nodes = false }: { nodes?: boolean }) {
  return (nodes ? tapeMarks.slice(1, 1 + ON_LINES) : tapeMarks).map(({ means, width, className, path }) => (
    <span key={means} className="key">
      <svg width={width} height="14" aria-hidden>
        <path className={className} d={path} />
      </svg>
      {means}
    </span>
  ))
}

/** What is found about the network that is shown: it belongs to no row of the table. */
function NetworkFinding({ finding, onFix }: { finding: Finding; onFix: (fix: Fix) => void }) {
  return (
    <p className="network-finding">
      <Glyph state="at-odds" size={15} />
      <b>{finding.title}</b>
      <span>{finding.why}</span>
      {finding.fixes.map((fix) => (
        <button key={fix.label} type="button" className="quiet" title={fix.sideEffect} onClick={() => onFix(fix)}>
          {fix.label}
        </button>
      ))}
    </p>
  )
}
