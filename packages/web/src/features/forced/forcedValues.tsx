import type { Job } from '@calm/core/job'
import { format } from 'date-fns/format'
import { useState } from 'react'
import { api } from '@calm/contract/api'
import { bodies } from '@calm/contract/bodies'
import { useAct } from '../../api'
import { against, useSchemaForm } from '../../forms'
import { Clamp, Field, Problems, Button, formActions } from '../../ui'

const check = against<{ where: string; value: string }>(bodies.addForced)

/** Values held by hand, wherever they are held. They are noted here and stay counted until somebody saw them released. */
export function ForcedValues({ job }: { job: Job }) {
  const release = useAct(job.id, api.releaseForced)
  const add = useAct(job.id, api.addForced)
  const [adding, setAdding] = useState(false)
  const form = useSchemaForm({
    start: { where: '', value: '' },
    check,
    send: async (body, reset) => {
      await add.mutateAsync({ params: { jobId: job.id }, body })
      setAdding(false)
      reset()
    },
  })
  const outstanding = job.forced.filter((each) => each.releasedAt === null)
  return (
    <section id="forced" className="border-t border-rule pt-2.5" aria-label="Forced values">
      <h3 className="mb-0.5 flex items-center gap-2">
        <span className="grid size-6.5 place-items-center bg-caution text-caution-ink">
          <Clamp />
        </span>
        Forced values <b className="ml-auto font-typed text-lead leading-none font-strong">{outstanding.length}</b>
      </h3>
      {outstanding.map((each) => (
        <div
          key={each.id}
          className="grid min-h-13 grid-cols-[1fr_auto_auto] items-center gap-3 border-b border-rule text-row leading-snug"
        >
          <span>
            <b>{each.where}</b>
            <em className="block text-note text-ink-soft">
              {format(each.at, 'HH:mm')}, {each.who}
            </em>
          </span>
          <b>{each.value}</b>
          <Button onClick={() => release.mutate({ params: { id: each.id }, body: { version: each.version } })}>
            Seen released
          </Button>
        </div>
      ))}
      <p className="mt-2 note">
        {outstanding.length > 0 ? 'Hand-over stays shut while anything is forced.' : 'Nothing is held by hand.'} Nothing
        is sent from here: release it where it is held.
      </p>
      {adding ? (
        <form className="mt-2 grid gap-2" onSubmit={form.onSubmit} noValidate>
          <Field label="What is held, and where" autoFocus {...form.bind('where')} />
          <Field label="At which value" {...form.bind('value')} />
          <div className={formActions}>
            <Button type="submit" look="act">
              Note it
            </Button>
            <Button look="plain" onClick={() => setAdding(false)}>
              Leave it
            </Button>
          </div>
        </form>
      ) : (
        <Button look="plain" onClick={() => setAdding(true)}>
          Note a forced value
        </Button>
      )}
      <Problems reason={form.trouble ?? release.error} />
    </section>
  )
}
