import { formatIpv4, formatSubnet } from '@calm/core/address'
import type { Finding, Fix } from '@calm/core/findings'
import type { Job } from '@calm/core/job'
import { ChevronLeft, ChevronRight, Pencil, Plus } from 'lucide-react'
import { useMemo, useState } from 'react'
import { Glyph } from '../../ui'
import { busiestNetwork } from './busiestNetwork'
import { TapeDrawing } from './tapeDrawing'
import { tapeOf } from './tapeModel'

interface TapeProps {
  readonly job: Job
  readonly networkId: string | undefined
  readonly onNetwork: (networkId: string) => void
  readonly onPick: (deviceId: string) => void
  readonly onEdit: (networkId: string | undefined) => void
  /** What is found about networks. */
  readonly findings: readonly Finding[]
  readonly onFix: (fix: Fix) => void
}

/** The addresses of one network as a ruler, with the key to its marks. */
export function AddressTape({ job, networkId, onNetwork, onPick, onEdit, findings, onFix }: TapeProps) {
  const [window, setWindow] = useState(0)
  const shownId = networkId ?? busiestNetwork(job)
  const tape = useMemo(() => (shownId ? tapeOf(job, shownId, window) : undefined), [job, shownId, window])
  return (
    <section className="tape" aria-label="Address tape">
      <div className="tape-head">
        <span className="tabs" role="group" aria-label="Network">
          {job.networks.map((network) => (
            <button
              key={network.id}
              type="button"
              aria-pressed={network.id === shownId}
              onClick={() => {
                onNetwork(network.id)
                setWindow(0)
              }}
            >
              {findings.some((finding) => finding.subject.id === network.id) && (
                <Glyph state="at-odds" size={13} label />
              )}
              {network.name}
            </button>
          ))}
        </span>
        {tape && (
          <>
            <b className="typed">{formatSubnet(tape.network.subnet)}</b>
            {tape.windowCount > 1 && (
              <span className="flex items-center">
                <button
                  type="button"
                  className="icon-button"
                  aria-label="Addresses before"
                  disabled={tape.windowIndex === 0}
                  onClick={() => setWindow(tape.windowIndex - 1)}
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
                  onClick={() => setWindow(tape.windowIndex + 1)}
                >
                  <ChevronRight size={16} />
                </button>
              </span>
            )}
            <TapeKey />
            <span className="right">{tape.freeCount} free</span>
          </>
        )}
        <span className="flex">
          {shownId && (
            <button
              type="button"
              className="icon-button"
              aria-label="Edit network"
              title="Edit network"
              onClick={() => onEdit(shownId)}
            >
              <Pencil size={15} />
            </button>
          )}
          <button
            type="button"
            className="icon-button"
            aria-label="Add a network"
            title="Add a network"
            onClick={() => onEdit(undefined)}
          >
            <Plus size={17} />
          </button>
        </span>
      </div>
      {findings
        .filter((finding) => finding.subject.id === shownId)
        .map((finding) => (
          <NetworkFinding key={finding.rule} finding={finding} onFix={onFix} />
        ))}
      {tape ? (
        <TapeDrawing tape={tape} onPick={onPick} />
      ) : (
        <p className="note">There is no network yet. Add one: its block, its gateway, and what is kept back.</p>
      )}
    </section>
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

function TapeKey() {
  return tapeMarks.map(({ means, width, className, path }) => (
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
