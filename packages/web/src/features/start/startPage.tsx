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
    <div className="start">
      <main>
        <div className="brand">
          <Glyph state="proven" size={40} />
          <h1>Calm Handshake</h1>
        </div>
        <p className="lead">Plan the addresses, agree the terms, prove that data passes, hand it over.</p>
        <h2>Jobs</h2>
        <RemovedNote removal={removal} />
        <ul className="m-0 list-none p-0">
          {jobs.data?.map((job) => (
            <JobLine key={job.id} job={job} onRemove={() => void removal.remove(job)} />
          ))}
        </ul>
        {jobs.data?.length === 0 && (
          <p className="soft">There is no job yet. Begin one below, or take one in from a file.</p>
        )}
        <div className="begin">
          <BeginJob />
          <ImportJob />
        </div>
      </main>
    </div>
  )
}
