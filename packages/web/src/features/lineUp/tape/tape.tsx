import { formatIpv4, formatSubnet } from '@calm/core/address'
import { nodeFamily } from '@calm/core/bus'
import type { Finding, Fix } from '@calm/core/findings'
import { lineMedia, type Device, type Job } from '@calm/core/job'
import { ChevronLeft, ChevronRight, Pencil, Plus } from 'lucide-react'
import { useDeferredValue, useMemo, useState } from 'react'
import { Button, Glyph, tip, Toggles } from '../../../ui'
import { busiestNetwork } from '../busiestNetwork'
import type { Dialogs } from '../dialogs'
import { NodeTape } from './nodeTape'
import { TapeDrawing } from './tapeDrawing'
import { tapeOf, type Tape as AddressTape } from './tapeModel'
import { TapeOverview } from './tapeOverview'
import type { LineUp } from '../useLineUp'

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

/** What has no room in the line is left out whole. */
const keys = 'flex h-5 flex-1 flex-wrap gap-x-3.5 gap-y-2 overflow-hidden'

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
    <section
      className="min-w-0 border-t border-rule-strong bg-sheet px-5 py-2 [grid-area:tape]"
      aria-label="Address tape"
    >
      <div className="flex min-h-8.5 flex-nowrap items-center gap-3.5 text-note whitespace-nowrap text-ink-soft">
        <TapeTabs job={job} shown={shown} findings={findings} onShow={onShow} />
        {tape && (
          <>
            <b className="font-typed text-row font-medium text-ink">{formatSubnet(tape.network.subnet)}</b>
            {tape.windowCount > 1 && <WindowSteps tape={tape} onGo={go} />}
            <span className={keys}>
              <TapeKey />
            </span>
            <span className="ml-auto">{tape.freeCount} free</span>
          </>
        )}
        {line && (
          <>
            <b className="text-row text-ink">{lineMedia[line.medium].name}</b>
            <span className="font-typed font-medium">{line.settings}</span>
            <span>{nodeFamily(line.family).name}</span>
            <span className={keys}>
              <TapeKey nodes />
            </span>
          </>
        )}
        <span className="flex">
          {shown && (
            <Button
              look="icon"
              aria-label={line ? 'Edit line' : 'Edit network'}
              {...tip(line ? 'Edit line' : 'Edit network')}
              onClick={() => dialogs.open({ kind: line ? 'line' : 'network', id: shown })}
            >
              <Pencil size={15} />
            </Button>
          )}
          <Button
            look="icon"
            aria-label="Add a network"
            {...tip('Add a network')}
            onClick={() => dialogs.open({ kind: 'network' })}
          >
            <Plus size={17} />
          </Button>
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
  const tab = (id: string, name: string, atOdds: boolean) => ({
    value: id,
    say: (
      <>
        {atOdds && <Glyph state="at-odds" size={13} label />}
        {name}
      </>
    ),
  })
  return (
    <>
      <Toggles
        label="Network"
        size="small"
        value={shown ?? ''}
        items={job.networks.map(({ id, name }) => tab(id, name, odds.has(id)))}
        onChange={onShow}
      />
      {job.lines.length > 0 && (
        <Toggles
          label="Line"
          size="small"
          className="border-l border-rule-strong pl-2"
          value={shown ?? ''}
          items={job.lines.map(({ id, name }) => tab(id, name, lineOdds(id)))}
          onChange={onShow}
        />
      )}
    </>
  )
}

function WindowSteps({ tape, onGo }: { tape: AddressTape; onGo: (index: number) => void }) {
  return (
    <span className="flex items-center">
      <Button
        look="icon"
        aria-label="Addresses before"
        disabled={tape.windowIndex === 0}
        onClick={() => onGo(tape.windowIndex - 1)}
      >
        <ChevronLeft size={16} />
      </Button>
      <span className="font-typed font-medium">
        {formatIpv4(tape.window.first)} to {formatIpv4(tape.window.last)}
      </span>
      <Button
        look="icon"
        aria-label="Addresses after"
        disabled={tape.windowIndex === tape.windowCount - 1}
        onClick={() => onGo(tape.windowIndex + 1)}
      >
        <ChevronRight size={16} />
      </Button>
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
  { means: 'sits there', width: 10, className: 'fill-proven', path: 'M2 0H8V14H2Z' },
  { means: 'planned', width: 10, className: 'fill-sheet stroke-ink stroke-[1.5]', path: 'M2.75 .75H7.25V13.25H2.75Z' },
  { means: 'wanted twice', width: 16, className: 'fill-odds-mark', path: 'M1 0H7V11H1ZM9 3H15V14H9Z' },
  { means: 'found here, moving out', width: 12, className: 'fill-ink', path: 'M6 1l4 6-4 6-4-6z' },
  { means: 'reserved', width: 10, className: 'fill-ink-faint', path: 'M1 3H4V14H1ZM5 3H8V14H5Z' },
]

/** Marks that stand for nodes too. */
const ON_LINES = 2

function TapeKey({ nodes = false }: { nodes?: boolean }) {
  return (nodes ? tapeMarks.slice(1, 1 + ON_LINES) : tapeMarks).map(({ means, width, className, path }) => (
    <span key={means} className="inline-flex items-center gap-1.5">
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
    <p className="flex flex-wrap items-center gap-x-2.5 gap-y-1 py-1 text-row">
      <Glyph state="at-odds" size={15} />
      <b className="text-odds">{finding.title}</b>
      <span>{finding.why}</span>
      {finding.fixes.map((fix) => (
        <Button key={fix.label} {...tip(fix.sideEffect)} onClick={() => onFix(fix)}>
          {fix.label}
        </Button>
      ))}
    </p>
  )
}
