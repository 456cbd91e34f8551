import { useQueryClient } from '@tanstack/react-query'
import { formatDistanceToNowStrict } from 'date-fns/formatDistanceToNowStrict'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, type JobSummary } from '@calm/contract/api'
import { call } from '../../api'
import { Problems, Button } from '../../ui'
import { JobLadder } from './jobLadder'

/** One job: how far each rung is, what is next, when somebody last worked on it; open it, or take it out of sight. */
export function JobLine({ job, onRemove }: { job: JobSummary; onRemove: () => void }) {
  const workedOn = new Date(job.workedOn)
  return (
    <li className="flex items-center border-t border-rule">
      <div className="grid min-h-16 flex-1 grid-cols-[minmax(0,1fr)_auto] items-center gap-x-6 gap-y-1 px-2.5 py-2 hover:bg-ground phone:grid-cols-[minmax(0,1fr)_60px_150px_110px]">
        <span className="min-w-0">
          <Link className="no-underline" to={`/jobs/${job.id}/line-up`}>
            <b>{job.name}</b> <span className="text-ink-soft">{job.place}</span>
          </Link>
          <Link className="block note no-underline" to={`/jobs/${job.id}/${job.next.stage}`}>
            {job.next.say}
          </Link>
        </span>
        <span className="note">{job.mode === 'plant' ? 'Plant' : 'Bench'}</span>
        <span className="grid gap-0.5">
          <JobLadder ladder={job.ladder} />
          <span className="note">
            {job.neededCount > 0
              ? `${job.provenCount} of ${job.neededCount} rungs`
              : `${job.deviceCount} device${job.deviceCount === 1 ? '' : 's'}, no handshake`}
          </span>
        </span>
        <time className="note" dateTime={workedOn.toISOString()}>
          {formatDistanceToNowStrict(workedOn, { addSuffix: true })}
        </time>
      </div>
      <Button look="icon" aria-label={`Remove ${job.name}`} onClick={onRemove}>
        <Trash2 size={16} />
      </Button>
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
        <p
          className="mt-2 mr-3 mb-0 ml-0 flex items-center gap-3 rounded-sm border-[1.5px] border-ink px-3 py-2 text-row"
          role="status"
        >
          <span>{removal.last.name} removed.</span>
          <Button onClick={() => void removal.bringBack()}>Undo</Button>
        </p>
      )}
    </>
  )
}
