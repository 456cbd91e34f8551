import { evidenceGoingWith, type Handshake, type Job } from '@calm/core/job'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useEdit } from '../../edit'
import { AskRow, Button, Dialog, Problems } from '../../ui'

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
      <Button look="plain" onClick={() => setAsking(true)}>
        Remove this handshake
      </Button>
      <Dialog
        title={`Remove ${handshake.name}?`}
        say={`Its terms${count > 0 ? ` and ${count} piece${count === 1 ? '' : 's'} of evidence` : ''} go out of sight with it. Both devices stay, with what was seen of them, and the log keeps what was recorded.`}
        open={asking}
        onClose={() => setAsking(false)}
      >
        <div className="mt-3 grid gap-3">
          <Problems reason={problem} />
          <AskRow act="Remove it" onAct={remove} onLeave={() => setAsking(false)} />
        </div>
      </Dialog>
    </>
  )
}
