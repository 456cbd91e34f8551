import { useEffect } from 'react'
import { Link } from 'react-router'
import { useJobs } from '../../api'
import { PageProblemText } from '../../shell'
import { Glyph } from '../../ui'
import { BeginJob } from './beginJob'
import { ImportJob } from './importJob'

/** All jobs; begin an empty one; take one in from a file. */
export function StartPage() {
  const jobs = useJobs()
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
        <ul className="job-list">
          {jobs.data?.map((job) => (
            <li key={job.id}>
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
            </li>
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
