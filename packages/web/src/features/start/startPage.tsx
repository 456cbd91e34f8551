import { useEffect } from 'react'
import { useJobs } from '../../api'
import { PageProblemText } from '../../shell'
import { Glyph } from '../../ui'
import { JobLine, RemovedNote, useRemoveJob } from './jobList'
import { BeginJob } from './beginJob'
import { ImportJob } from './importJob'

/** All jobs; begin an empty one; take one in from a file. */
export function StartPage() {
  const jobs = useJobs()
  const removal = useRemoveJob()
  useEffect(() => {
    document.title = 'Calm Handshake'
  }, [])
  if (jobs.isError) return <PageProblemText reason={jobs.error} />
  return (
    <div className="grid h-dvh [place-items:start_center] overflow-auto px-6 pt-[7vh] pb-6">
      <main className="w-[min(860px,100%)] rounded-sm bg-sheet px-11 pt-9 pb-10 max-phone:px-4.5 max-phone:py-6">
        <div className="flex items-center gap-3.5">
          <Glyph state="proven" size={40} />
          <h1 className="text-arm">Calm Handshake</h1>
        </div>
        <p className="mt-2 mb-6 max-w-[58ch] text-lead">
          Plan the addresses, agree the terms, prove that data passes, hand it over.
        </p>
        <h2>Jobs</h2>
        <RemovedNote removal={removal} />
        <ul className="m-0 list-none p-0">
          {jobs.data?.map((job) => (
            <JobLine key={job.id} job={job} onRemove={() => void removal.remove(job)} />
          ))}
        </ul>
        {jobs.data?.length === 0 && (
          <p className="text-ink-soft">There is no job yet. Begin one below, or take one in from a file.</p>
        )}
        <div className="mt-7 grid grid-cols-2 gap-8 border-t border-rule-strong pt-5 max-phone:grid-cols-1 max-phone:gap-2">
          <BeginJob />
          <ImportJob />
        </div>
      </main>
    </div>
  )
}
