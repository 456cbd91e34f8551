import { Link } from 'react-router'

/** In place of a stage that needs a handshake: where one is begun. */
export function NoHandshake({ jobId, stage }: { jobId: string; stage: string }) {
  return (
    <main className="sheet p-6 grid gap-3 content-start">
      <h1>{stage}</h1>
      <p>
        There is no handshake yet. Choose a device in the <Link to={`/jobs/${jobId}/line-up`}>line-up</Link> and begin
        one with its controller.
      </p>
    </main>
  )
}
