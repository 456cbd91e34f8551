import { cn, tip } from '../../../ui'
import { describeNode, formatNode, nodeFamily, type BusNode } from '@calm/core/bus'
import { busesOf, type Job, type Line } from '@calm/core/job'
import { useMemo } from 'react'

interface NodeTapeProps {
  readonly job: Job
  readonly line: Line
  readonly onPick: (deviceId: string) => void
}

const cell = 'flex h-6 w-full items-baseline justify-center gap-0.75 leading-6'

/** The nodes of a line in the base they are written in, the decimal number beside an octal one. */
export function NodeTape({ job, line, onPick }: NodeTapeProps) {
  const family = nodeFamily(line.family)
  const holders = useMemo(() => busesOf(job).find((bus) => bus.id === line.id)?.holders ?? [], [job, line.id])
  const ownerOf = useMemo(
    () => new Map(job.devices.flatMap((device) => device.nodes.map((node) => [node.id, device.id] as const))),
    [job.devices],
  )
  const all = Array.from({ length: family.last - family.first + 1 }, (_, k) => (family.first + k) as BusNode)
  const unplanned = holders.filter((holder) => holder.node === undefined)
  return (
    <>
      <ol
        className="grid max-h-26 grid-cols-[repeat(auto-fill,minmax(34px,1fr))] gap-0.5 overflow-auto font-typed text-note font-medium"
        aria-label={`Nodes of ${line.name}`}
      >
        {all.map((node) => {
          const here = holders.filter((holder) => holder.node === node)
          const tags = here.map((holder) => holder.tag + (holder.isMaster ? ', master' : '')).join(' and ')
          const [first] = here
          const text = `${describeNode(node, family)}${tags ? `: ${tags}` : ': free'}`
          return (
            <li key={node}>
              {first ? (
                <button
                  type="button"
                  className={cn(
                    cell,
                    'rounded-sm border-[1.5px]',
                    here.length > 1 ? 'border-odds bg-odds-mark text-sheet' : 'border-ink bg-sheet text-ink',
                  )}
                  {...tip(text)}
                  aria-label={here.length > 1 ? `${text}, wanted twice` : text}
                  onClick={() => onPick(ownerOf.get(first.id) ?? first.id)}
                >
                  <b>{formatNode(node, family)}</b>
                  {family.base === 8 && <i className="text-[10px] opacity-75">{node}</i>}
                </button>
              ) : (
                <span className={cn(cell, 'text-ink-soft')} {...tip(text)}>
                  {formatNode(node, family)}
                </span>
              )}
            </li>
          )
        })}
      </ol>
      {unplanned.length > 0 && (
        <p className="note">
          On the line without a node:{' '}
          {unplanned.map((holder) => holder.tag + (holder.isMaster ? ', master' : '')).join('; ')}.
        </p>
      )}
    </>
  )
}
