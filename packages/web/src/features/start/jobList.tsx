import { useQueryClient } from '@tanstack/react-query'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, type JobSummary } from '@calm/contract/api'
import { call } from '../../api'
import { Problems } from '../../ui'

/** One job: open it, or take it out of sight. */
export function JobLine({ job, onRemove }: { job: JobSummary; onRemove: () => void }) {
  return (
    <li>
      <Link to={`/jobs/${job.id}/line-up`}>
        <span>
          <b>{job.name}</b> <span className="soft">{job.place}</span>
        </span>
        <span className="note">{job.mode === 'plant' ? 'Plant' : 'Bench'}</span>
        <span className="note">
          {job.deviceCount} device{job.deviceCount === 1 ? '' : 's'}
        </span>
        <span className="note">
          {job.neededCount > 0 ? `${job.provenCount} of ${job.neededCount} rungs proven` : 'no handshake yet'}
        </span>
      </Link>
      <button type="button" className="icon-button" aria-label={`Remove ${job.name}`} onClick={onRemove}>
        <Trash2 size={16} />
      </button>
    </li>
  )
}

/** Removes a job, and brings the last one back. */
export function useRemoveJob() {
  const client = useQueryClient()
  const [last, setLast] = useState<JobSummary | undefined>(undefined)
  const [problem, setProblem] = useState<unknown>(undefined)
  const send = async (work: () => Promise<unknown>, then: JobSummary | undefined) => {
    try {
      await work()
      setProblem(undefined)
      setLast(then)
    } catch (reason) {
      setProblem(reason)
    }
    await client.invalidateQueries({ queryKey: ['jobs'] })
  }
  return {
    last,
    problem,
    remove: (job: JobSummary) => send(() => call(api.removeJob, { jobId: job.id }), job),
    bringBack: () => (last ? send(() => call(api.restoreJob, { jobId: last.id }), undefined) : Promise.resolve()),
  }
}

export function RemovedNote({ removal }: { removal: ReturnType<typeof useRemoveJob> }) {
  return (
    <>
      <Problems reason={removal.problem} />
      {removal.last && (
        <p className="undo" role="status">
          <span>{removal.last.name} removed.</span>
          <button type="button" className="quiet" onClick={() => void removal.bringBack()}>
            Undo
          </button>
        </p>
      )}
    </>
  )
}
