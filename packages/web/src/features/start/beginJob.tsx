import { api } from '@calm/contract/api'
import type { Mode } from '@calm/core/job'
import { useNavigate } from 'react-router'
import { call } from '../../api'
import { againstLater, useSchemaForm } from '../../forms'
import { Button, Choice, Field, Problems } from '../../ui'

const check = againstLater<{ name: string; place: string; mode: Mode }>(
  async () => (await import('@calm/contract/bodies')).bodies.beginJob,
)

export function BeginJob() {
  const navigate = useNavigate()
  const form = useSchemaForm({
    start: { name: '', place: '', mode: 'bench' as Mode },
    check,
    send: async (values) => {
      const job = await call(api.beginJob, {}, values)
      await navigate(`/jobs/${job.id}/line-up`)
    },
  })
  return (
    <form className="grid content-start gap-2.5" onSubmit={form.onSubmit} noValidate>
      <h2>Begin an empty job</h2>
      <Field label="Name" placeholder="Plant or site" {...form.bind('name')} />
      <Field label="Place" placeholder="Panel, room or area" {...form.bind('place')} />
      <Choice
        label="Against"
        value={form.values.mode}
        choices={[
          { value: 'bench', label: 'Bench: stand-ins on this laptop' },
          { value: 'plant', label: 'Plant: real equipment' },
        ]}
        onChange={(mode) => form.set({ mode })}
      />
      <Problems reason={form.trouble} />
      <Button look="act" size="tall" type="submit">
        Begin
      </Button>
    </form>
  )
}
