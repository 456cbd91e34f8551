import type { Job } from '@calm/core/job'
import { format } from 'date-fns'
import { useState } from 'react'
import { api } from '@calm/contract/api'
import { useAct } from '../../api'
import { Clamp, Field, Problems } from '../../ui'

/** Values held by hand, wherever they are held. They are noted here and stay counted until somebody saw them released. */
export function ForcedValues({ job }: { job: Job }) {
  const release = useAct(job.id, api.releaseForced)
  const add = useAct(job.id, api.addForced)
  const [where, setWhere] = useState('')
  const [value, setValue] = useState('')
  const [adding, setAdding] = useState(false)
  const outstanding = job.forced.filter((each) => each.releasedAt === null)
  return (
    <section id="forced" className="forces" aria-label="Forced values">
      <h3>
        <Clamp />
        Forced values <b>{outstanding.length}</b>
      </h3>
      {outstanding.map((each) => (
        <div key={each.id} className="force-row">
          <span>
            <b>{each.where}</b>
            <em>
              {format(each.at, 'HH:mm')}, {each.who}
            </em>
          </span>
          <b>{each.value}</b>
          <button
            type="button"
            className="quiet"
            onClick={() => release.mutate({ params: { id: each.id }, body: { version: each.version } })}
          >
            Seen released
          </button>
        </div>
      ))}
      <p className="note mt-2">
        {outstanding.length > 0 ? 'Hand-over stays shut while anything is forced.' : 'Nothing is held by hand.'} Nothing
        is sent from here: release it where it is held.
      </p>
      {adding ? (
        <form
          className="grid gap-2 mt-2"
          onSubmit={(event) => {
            event.preventDefault()
            add.mutate(
              { params: { jobId: job.id }, body: { where, value } },
              { onSuccess: () => (setAdding(false), setWhere(''), setValue('')) },
            )
          }}
        >
          <Field label="What is held, and where" autoFocus value={where} onChange={setWhere} />
          <Field label="At which value" value={value} onChange={setValue} />
          <div className="form-actions">
            <button type="submit" className="act">
              Note it
            </button>
            <button type="button" className="plain" onClick={() => setAdding(false)}>
              Leave it
            </button>
          </div>
        </form>
      ) : (
        <button type="button" className="plain" onClick={() => setAdding(true)}>
          Note a forced value
        </button>
      )}
      <Problems reason={add.error ?? release.error} />
    </section>
  )
}
