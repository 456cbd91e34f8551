import { requestKinds, shareAnswer, type AskedOfOthers, type Job, type RequestKind } from '@calm/core/job'
import type { Change } from '@calm/core/changes'
import { newRow } from '@calm/contract'
import { useMemo } from 'react'
import { against, useSchemaForm } from '../../../forms'
import {
  Area,
  Button,
  Checkbox,
  Choice,
  Dialog,
  Field,
  fieldLabel,
  formActions,
  formGrid,
  Problems,
  Scroll,
} from '../../../ui'
import { today } from './today'
import type { LineUp } from '../useLineUp'

interface RequestProps {
  readonly job: Job
  readonly lineUp: LineUp
  /** `undefined` for a new one. */
  readonly request: AskedOfOthers | undefined
  readonly deviceIds: readonly string[]
  readonly onClose: () => void
}

const isDay = (text: string) => /^\d{4}-\d{2}-\d{2}$/.test(text)

const formOf = (request: AskedOfOthers | undefined, deviceIds: readonly string[]) => ({
  about: request?.about ?? ('range' as RequestKind),
  what: request?.what ?? '',
  toWhom: request?.toWhom ?? requestKinds.range.toWhom,
  askedOn: request ? (request.askedOn ?? '') : today(),
  dueOn: request?.dueOn ?? '',
  deviceIds: request?.deviceIds ?? deviceIds,
  answer: request?.answer ?? '',
})

const fieldsOf = (form: ReturnType<typeof formOf>, request: AskedOfOthers | undefined) => ({
  about: form.about,
  what: form.what,
  toWhom: form.toWhom,
  askedOn: isDay(form.askedOn) ? form.askedOn : null,
  dueOn: isDay(form.dueOn) ? form.dueOn : null,
  deviceIds: form.deviceIds,
  answer: form.answer,
  answeredOn: form.answer === '' ? null : (request?.answeredOn ?? today()),
})

const check = against(newRow('request'))

/** Something only others can give: what, of whom, by when; and the answer, pasted back. */
export default function RequestDialog({ job, lineUp, request, deviceIds, onClose }: RequestProps) {
  const form = useSchemaForm({
    start: formOf(request, deviceIds),
    check: (values) => check(fieldsOf(values, request)),
    send: async (values) => {
      const fields = fieldsOf(values, request)
      if (request) {
        const changes: Change[] = [{ op: 'set', table: 'request', id: request.id, version: request.version, fields }]
        await lineUp.change(`Request "${fields.what}" changed.`, changes)
      } else await lineUp.addRow(`Request "${fields.what}" noted.`, 'request', fields)
      onClose()
    },
  })
  const { values } = form
  const answered = values.answer.trim() !== ''
  const shared = useMemo(
    () => (request && answered ? shareAnswer(job, request, values.answer) : undefined),
    [job, request, answered, values.answer],
  )
  const toggle = (id: string, on: boolean) =>
    form.set({ deviceIds: on ? [...values.deviceIds, id] : values.deviceIds.filter((each) => each !== id) })
  return (
    <Dialog title={request ? 'Asked of others' : 'Ask somebody'} open onClose={onClose}>
      <form onSubmit={form.onSubmit} noValidate>
        <div className={formGrid}>
          <Choice
            label="What kind of thing"
            value={values.about}
            choices={(Object.keys(requestKinds) as RequestKind[]).map((value) => ({
              value,
              label: requestKinds[value].name,
            }))}
            onChange={(about) => form.set({ about, toWhom: requestKinds[about].toWhom })}
          />
          <Field label="Of whom" {...form.bind('toWhom')} />
          <Field className="col-span-full" label="What is asked" {...form.bind('what')} />
          <Field label="Asked on" type="date" {...form.bind('askedOn')} />
          <Field label="Needed by" type="date" {...form.bind('dueOn')} />
          <fieldset className="col-span-full">
            <legend className={fieldLabel}>Devices that wait for it</legend>
            <Scroll label="Devices that wait for it" className="max-h-32.5">
              <div className="flex flex-wrap gap-x-3.5 gap-y-1">
                {job.devices.slice(0, 400).map(({ id, tag }) => (
                  <Checkbox
                    key={id}
                    className="text-note"
                    label={tag}
                    checked={values.deviceIds.includes(id)}
                    onChange={(on) => toggle(id, on)}
                  />
                ))}
              </div>
            </Scroll>
          </fieldset>
          {request && (
            <Area className="col-span-full" label="The answer, as it came" rows={4} {...form.bind('answer')} />
          )}
          {shared && shared.perDevice.length > 0 && (
            <ul className="col-span-full note" aria-label="Who gets what">
              {shared.perDevice.map(({ deviceId, tag, text }) => (
                <li key={deviceId}>
                  <b>{tag}</b> {text}
                </li>
              ))}
            </ul>
          )}
        </div>
        <Problems reason={form.trouble} />
        <div className={formActions}>
          <Button type="submit" look="act" size="tall">
            {request && answered && request.answeredOn === null ? 'Save the answer' : 'Save'}
          </Button>
          {request && (
            <Button
              look="plain"
              onClick={() => {
                lineUp.attempt(lineUp.removeRow(`Request "${request.what}" removed.`, 'request', request))
                onClose()
              }}
            >
              Remove the request
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  )
}
