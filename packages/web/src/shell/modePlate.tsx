import type { Job } from '@calm/core/job'
import { useState } from 'react'
import { useEdit } from '../edit'
import { AskRow, Caution, cn, Dialog, Drawn, Problems, Turning } from '../ui'

/** Says in every state of mind whether real machinery is meant; pressed, it asks before it changes that. */
export function ModePlate({ job }: { job: Job }) {
  const [asking, setAsking] = useState(false)
  const { set } = useEdit(job)
  const [problem, setProblem] = useState<unknown>(undefined)
  const other = job.mode === 'plant' ? 'bench' : 'plant'
  const turn = () =>
    void set(`Changed to the ${other}.`, 'job', job, { mode: other }).then(() => setAsking(false), setProblem)
  return (
    <>
      <button
        type="button"
        className={cn(
          'flex items-center gap-2.25 pr-1.5 pb-0.5 text-left leading-tight [grid-area:plate] max-phone:hidden print:hidden',
          job.mode === 'plant'
            ? 'bg-plant-plate pl-2.5 text-plant-plate-ink shadow-[inset_0_-4px_0_var(--color-caution)] [&_svg]:text-caution'
            : 'my-0.75 ml-0.75 rounded-sm border-2 border-dashed border-bench-frame pl-2.25',
        )}
        onClick={() => setAsking(true)}
      >
        {job.mode === 'plant' ? <Turning /> : <Drawn />}
        <span>
          <b className="block text-head font-strong tracking-[0.055em]">{job.mode === 'plant' ? 'PLANT' : 'BENCH'}</b>
          <em className="mt-0.5 block text-note tracking-[-0.02em] whitespace-nowrap">
            {job.mode === 'plant' ? 'Writes move machinery' : 'Nothing real moves'}
          </em>
        </span>
      </button>
      <Dialog title={`Change to the ${other}?`} open={asking} onClose={() => setAsking(false)}>
        <div className="mt-3 grid gap-3">
          {other === 'plant' ? (
            <Caution>
              Planned addresses are then asked on the real network. Know what is live and who works on it; site rules
              and the manuals come first.
            </Caution>
          ) : (
            <p>
              Planned addresses are then served by stand-ins on this laptop. Every reading says that it is from the
              bench.
            </p>
          )}
          <Problems reason={problem} />
          <AskRow act={`Change to the ${other}`} onAct={turn} onLeave={() => setAsking(false)} />
        </div>
      </Dialog>
    </>
  )
}
