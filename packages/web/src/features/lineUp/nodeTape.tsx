import { describeNode, formatNode, nodeFamily, type BusNode } from '@calm/core/bus'
import { busesOf, type Job, type Line } from '@calm/core/job'
import { useMemo } from 'react'

interface NodeTapeProps {
  readonly job: Job
  readonly line: Line
  readonly onPick: (deviceId: string) => void
}

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
      <ol className="node-tape" aria-label={`Nodes of ${line.name}`}>
        {all.map((node) => {
          const here = holders.filter((holder) => holder.node === node)
          const tags = here.map((holder) => holder.tag + (holder.isMaster ? ', master' : '')).join(' and ')
          const [first] = here
          const text = `${describeNode(node, family)}${tags ? `: ${tags}` : ': free'}`
          return (
            <li key={node} className={here.length > 1 ? 'twice' : here.length === 1 ? 'taken' : ''}>
              {first ? (
                <button
                  type="button"
                  title={text}
                  aria-label={here.length > 1 ? `${text}, wanted twice` : text}
                  onClick={() => onPick(ownerOf.get(first.id) ?? first.id)}
                >
                  <b>{formatNode(node, family)}</b>
                  {family.base === 8 && <i>{node}</i>}
                </button>
              ) : (
                <span title={text}>{formatNode(node, family)}</span>
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
