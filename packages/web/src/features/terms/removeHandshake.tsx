import { evidenceGoingWith, type Handshake, type Job } from '@calm/core/job'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useEdit } from '../../edit'
import { Dialog, Problems } from '../../ui'

/** Takes a handshake out of sight, after saying what goes with it. */
export function RemoveHandshake({ job, handshake }: { job: Job; handshake: Handshake }) {
  const [asking, setAsking] = useState(false)
  const { removeRow } = useEdit(job)
  const [problem, setProblem] = useState<unknown>(undefined)
  const navigate = useNavigate()
  const count = evidenceGoingWith(job, handshake).length
  const remove = () =>
    void removeRow(`${handshake.name} removed.`, 'handshake', handshake).then(
      () => navigate(`/jobs/${job.id}/terms`),
      setProblem,
    )
  return (
    <>
      <button type="button" className="plain" onClick={() => setAsking(true)}>
        Remove this handshake
      </button>
      <Dialog
        title={`Remove ${handshake.name}?`}
        say={`Its terms${count > 0 ? ` and ${count} piece${count === 1 ? '' : 's'} of evidence` : ''} go out of sight with it. Both devices stay, with what was seen of them, and the log keeps what was recorded.`}
        open={asking}
        onClose={() => setAsking(false)}
      >
        <div className="grid gap-3 mt-3">
          <Problems reason={problem} />
          <div className="form-actions">
            <button type="button" className="act tall" onClick={remove}>
              Remove it
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
