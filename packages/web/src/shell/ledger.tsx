import type { Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import { format } from 'date-fns/format'
import { useWalkActs } from '../api'
import { againstLater, useSchemaForm } from '../forms'
import { Dialog, Field, Problems, Button } from '../ui'

const check = againstLater<{ what: string; putBack: string }>(
  async () => (await import('@calm/contract/bodies')).bodies.addTemporary,
)

/** Everything temporary, until it is seen to be back. */
export function Ledger({ job, walk, onClose }: { job: Job; walk: WalkRecord; onClose: () => void }) {
  const acts = useWalkActs(job.id)
  const form = useSchemaForm({
    start: { what: '', putBack: '' },
    check,
    send: ({ what, putBack }, reset) => acts.addTemporary(what, putBack).then(() => reset()),
  })
  const open = walk.temporary.filter((thing) => thing.backAt === null)
  const back = walk.temporary.filter((thing) => thing.backAt !== null)
  return (
    <Dialog
      title="Temporary things"
      say="Each counts until somebody has seen it back."
      open
      onClose={onClose}
      room="wide"
    >
      <Problems reason={acts.of('temporary').problem} />
      <ul>
        {open.map((thing) => (
          <li className="flex items-center justify-between gap-4 border-b border-rule py-2" key={thing.id}>
            <span>
              <b>{thing.what}</b>
              <p className="note">
                {thing.putBack} {thing.who}, {format(thing.at, 'HH:mm')}
              </p>
            </span>
            <Button onClick={() => void acts.back(thing.id, thing.version).catch(() => undefined)}>It is back</Button>
          </li>
        ))}
        {open.length === 0 && (
          <li className="flex items-center justify-between gap-4 border-b border-rule py-2 note">
            Nothing is outstanding.
          </li>
        )}
      </ul>
      <form
        className="my-3.5 grid grid-cols-[1fr_1fr_auto] items-end gap-3 max-phone:grid-cols-1"
        onSubmit={form.onSubmit}
        noValidate
      >
        <Field label="What was left or changed" {...form.bind('what')} />
        <Field label="How it is put back" {...form.bind('putBack')} />
        <Button type="submit" look="act">
          Add
        </Button>
      </form>
      {back.length > 0 && (
        <details>
          <summary>{back.length} back</summary>
          <ul>
            {back.map((thing) => (
              <li key={thing.id} className="note">
                {thing.what}: {thing.backBy}, {format(thing.backAt ?? 0, 'HH:mm')}
              </li>
            ))}
          </ul>
        </details>
      )}
    </Dialog>
  )
}
