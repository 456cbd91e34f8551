import type { Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import { format } from 'date-fns'
import { useState } from 'react'
import { useWalkActs } from '../api'
import { Dialog, Field, Problems } from '../ui'

/** Everything temporary, until it is seen to be back. */
export function Ledger({ job, walk, onClose }: { job: Job; walk: WalkRecord; onClose: () => void }) {
  const acts = useWalkActs(job.id)
  const [what, setWhat] = useState('')
  const [putBack, setPutBack] = useState('')
  const open = walk.temporary.filter((thing) => thing.backAt === null)
  const back = walk.temporary.filter((thing) => thing.backAt !== null)
  const add = async () => {
    await acts.addTemporary(what, putBack)
    setWhat('')
    setPutBack('')
  }
  return (
    <Dialog title="Temporary things" say="Each counts until somebody has seen it back." open onClose={onClose} wide>
      <Problems reason={acts.of('temporary').problem} />
      <ul className="ledger">
        {open.map((thing) => (
          <li key={thing.id}>
            <span>
              <b>{thing.what}</b>
              <p className="note">
                {thing.putBack} {thing.who}, {format(thing.at, 'HH:mm')}
              </p>
            </span>
            <button
              type="button"
              className="quiet"
              onClick={() => void acts.back(thing.id, thing.version).catch(() => undefined)}
            >
              It is back
            </button>
          </li>
        ))}
        {open.length === 0 && <li className="note">Nothing is outstanding.</li>}
      </ul>
      <form
        className="ledger-add"
        onSubmit={(event) => {
          event.preventDefault()
          void add().catch(() => undefined)
        }}
      >
        <Field label="What was left or changed" value={what} onChange={setWhat} />
        <Field label="How it is put back" value={putBack} onChange={setPutBack} />
        <button type="submit" className="act" disabled={what.trim().length < 2}>
          Add
        </button>
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
