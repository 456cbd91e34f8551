import { format } from 'date-fns'
import { useState } from 'react'
import { api } from '@calm/contract/api'
import { call, useKeepsakes } from '../../api'
import { Dialog, Glyph, Problems } from '../../ui'
import type { ViewProps } from './viewProps'

interface Shown {
  readonly title: string
  readonly text: string
}

/** What is kept as evidence: pictures of what ran, console sessions, searches. */
export function KeptView({ job, acts }: ViewProps) {
  const kept = useKeepsakes(job.id)
  const [notes, setNotes] = useState('')
  const [differences, setDifferences] = useState<readonly { tag: string; kind: string; say: string }[] | undefined>(
    undefined,
  )
  const [shown, setShown] = useState<Shown | undefined>(undefined)
  const take = async (when: 'before' | 'after') => {
    const lines = notes
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '')
    const answer = await acts.takePicture(when, lines).catch(() => undefined)
    if (!answer) return
    setNotes('')
    setDifferences(when === 'after' ? answer.differences : undefined)
    void kept.refetch()
  }
  const open = async (id: string, title: string) => {
    const { content } = (await call(api.keepsake, { jobId: job.id, id })) as { readonly content: { text?: string } }
    setShown({ title, text: content.text ?? JSON.stringify(content, null, 2) })
  }
  return (
    <div className="fc-kept">
      <section aria-label="Picture of what runs">
        <h2>Picture of what runs</h2>
        <p className="note">Who answers is looked at now; alarms and key values are written down.</p>
        <label className="field">
          <span>Alarms and key values, one in a line</span>
          <textarea className="input" rows={3} value={notes} onChange={(event) => setNotes(event.target.value)} />
        </label>
        <div className="step-acts">
          <button type="button" className="act" disabled={acts.of('pictures').busy} onClick={() => void take('before')}>
            Take the before-picture
          </button>
          <button
            type="button"
            className="quiet"
            disabled={acts.of('pictures').busy}
            onClick={() => void take('after')}
          >
            Compare with now
          </button>
        </div>
        <Problems reason={acts.of('pictures').problem} />
        {differences && (
          <ul className="differences" role="status">
            {differences.length === 0 && (
              <li>
                <Glyph state="proven" size={16} /> As it was before.
              </li>
            )}
            {differences.map((each) => (
              <li key={each.tag}>
                <Glyph
                  state={each.kind === 'new-fault' ? 'at-odds' : each.kind === 'better' ? 'proven' : 'parked'}
                  size={16}
                />
                <b>{each.tag}</b> {each.say}
              </li>
            ))}
          </ul>
        )}
      </section>
      <section aria-label="Kept">
        <h2>Kept</h2>
        <ul className="kept">
          {kept.data?.map((each) => (
            <li key={each.id}>
              <button type="button" className="plain" onClick={() => void open(each.id, each.title)}>
                {each.title}
              </button>
              <span className="note">
                {each.who}, {format(each.at, 'd MMM HH:mm')}
              </span>
            </li>
          ))}
          {kept.data?.length === 0 && <li className="note">Nothing yet.</li>}
        </ul>
      </section>
      {shown && (
        <Dialog title={shown.title} open onClose={() => setShown(undefined)} wide>
          <pre className="kept-text typed">{shown.text}</pre>
        </Dialog>
      )}
    </div>
  )
}
