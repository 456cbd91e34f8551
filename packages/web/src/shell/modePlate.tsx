import type { Job } from '@calm/core/job'
import { useState } from 'react'
import { useEdit } from '../edit'
import { Caution, Dialog, Drawn, Problems, Turning } from '../ui'

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
      <button type="button" className={`plate ${job.mode}`} onClick={() => setAsking(true)}>
        {job.mode === 'plant' ? <Turning /> : <Drawn />}
        <span>
          <b>{job.mode === 'plant' ? 'PLANT' : 'BENCH'}</b>
          <em>{job.mode === 'plant' ? 'Writes move machinery' : 'Nothing real moves'}</em>
        </span>
      </button>
      <Dialog title={`Change to the ${other}?`} open={asking} onClose={() => setAsking(false)}>
        <div className="grid gap-3 mt-3">
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
          <div className="form-actions">
            <button type="button" className="act tall" onClick={turn}>
              Change to the {other}
            </button>
            <button type="button" className="quiet tall" onClick={() => setAsking(false)}>
              Leave it
            </button>
          </div>
        </div>
      </Dialog>
    </>
  )
}
