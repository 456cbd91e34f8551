import { requestKinds, shareAnswer, type AskedOfOthers, type Job, type RequestKind } from '@calm/core/job'
import type { Change } from '@calm/core/changes'
import { useMemo, useState } from 'react'
import { Choice, Dialog, Field, Problems } from '../../ui'
import { today } from './today'
import type { LineUp } from './useLineUp'

interface RequestProps {
  readonly job: Job
  readonly lineUp: LineUp
  /** `undefined` for a new one. */
  readonly request: AskedOfOthers | undefined
  readonly deviceIds: readonly string[]
  readonly onClose: () => void
}

const isDay = (text: string) => /^\d{4}-\d{2}-\d{2}$/.test(text)

/** Something only others can give: what, of whom, by when; and the answer, pasted back. */
export default function RequestDialog({ job, lineUp, request, deviceIds, onClose }: RequestProps) {
  const [form, setForm] = useState(() => ({
    about: request?.about ?? ('range' as RequestKind),
    what: request?.what ?? '',
    toWhom: request?.toWhom ?? requestKinds.range.toWhom,
    askedOn: request ? (request.askedOn ?? '') : today(),
    dueOn: request?.dueOn ?? '',
    deviceIds: request?.deviceIds ?? deviceIds,
    answer: request?.answer ?? '',
  }))
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const put = (fields: Partial<typeof form>) => setForm((before) => ({ ...before, ...fields }))
  const blank = form.what.trim().length < 2
  const answered = form.answer.trim() !== ''
  const shared = useMemo(
    () => (request && answered ? shareAnswer(job, request, form.answer) : undefined),
    [job, request, answered, form.answer],
  )
  const save = async (event: React.FormEvent) => {
    event.preventDefault()
    if (blank) return
    const fields = {
      about: form.about,
      what: form.what.trim(),
      toWhom: form.toWhom.trim(),
      askedOn: isDay(form.askedOn) ? form.askedOn : null,
      dueOn: isDay(form.dueOn) ? form.dueOn : null,
      deviceIds: form.deviceIds,
      answer: form.answer.trim(),
      answeredOn: answered ? (request?.answeredOn ?? today()) : null,
    }
    try {
      if (request) {
        const changes: Change[] = [{ op: 'set', table: 'request', id: request.id, version: request.version, fields }]
        await lineUp.change(`Request "${fields.what}" changed.`, changes)
      } else await lineUp.addRow(`Request "${fields.what}" noted.`, 'request', fields)
      onClose()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  const toggle = (id: string) =>
    put({
      deviceIds: form.deviceIds.includes(id) ? form.deviceIds.filter((each) => each !== id) : [...form.deviceIds, id],
    })
  return (
    <Dialog title={request ? 'Asked of others' : 'Ask somebody'} open onClose={onClose}>
      <form onSubmit={(event) => void save(event)} noValidate>
        <div className="form-grid">
          <Choice
            label="What kind of thing"
            value={form.about}
            choices={Object.entries(requestKinds).map(([value, { name }]) => ({ value, label: name }))}
            onChange={(text) => put({ about: text as RequestKind, toWhom: requestKinds[text as RequestKind].toWhom })}
          />
          <Field label="Of whom" value={form.toWhom} onChange={(toWhom) => put({ toWhom })} />
          <div className="whole">
            <Field
              label="What is asked"
              value={form.what}
              trouble={
                blank && form.what !== ''
                  ? { what: 'This is too short.', expected: 'at least 2 characters' }
                  : undefined
              }
              onChange={(what) => put({ what })}
            />
          </div>
          <Field label="Asked on" type="date" value={form.askedOn} onChange={(askedOn) => put({ askedOn })} />
          <Field label="Needed by" type="date" value={form.dueOn} onChange={(dueOn) => put({ dueOn })} />
          <fieldset className="whole waiting-devices">
            <legend className="field-label">Devices that wait for it</legend>
            {job.devices.slice(0, 400).map(({ id, tag }) => (
              <label key={id} className="tick">
                <input type="checkbox" checked={form.deviceIds.includes(id)} onChange={() => toggle(id)} /> {tag}
              </label>
            ))}
          </fieldset>
          {request && (
            <label className="whole">
              <span className="field-label">The answer, as it came</span>
              <textarea
                className="input paste-area"
                rows={4}
                aria-label="The answer, as it came"
                value={form.answer}
                onChange={(event) => put({ answer: event.target.value })}
              />
            </label>
          )}
          {shared && shared.perDevice.length > 0 && (
            <ul className="whole note" aria-label="Who gets what">
              {shared.perDevice.map(({ deviceId, tag, text }) => (
                <li key={deviceId}>
                  <b>{tag}</b> {text}
                </li>
              ))}
            </ul>
          )}
        </div>
        <Problems reason={trouble} />
        <div className="form-actions">
          <button type="submit" className="act tall" disabled={blank}>
            {request && answered && request.answeredOn === null ? 'Save the answer' : 'Save'}
          </button>
          {request && (
            <button
              type="button"
              className="plain"
              onClick={() => {
                lineUp.attempt(lineUp.removeRow(`Request "${request.what}" removed.`, 'request', request))
                onClose()
              }}
            >
              Remove the request
            </button>
          )}
        </div>
      </form>
    </Dialog>
  )
}
