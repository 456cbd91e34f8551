import type { Handshake, Job } from '@calm/core/job'
import { termDefinition, type End, type TermId } from '@calm/core/terms'
import { useState } from 'react'
import { useEdit, useUndoKeys } from '../../edit'
import { Button, Checkbox, Choice, Field, Problems } from '../../ui'
import { changesOf, previewMany, type ManyPreview } from './changeMany'

interface ChangeManyFormProps {
  readonly job: Job
  readonly columns: readonly { readonly id: TermId; readonly name: string }[]
  /** The rows that are shown. */
  readonly handshakes: readonly Handshake[]
}

/** How many of a preview are listed by name. */
const LISTED = 6

/** Sets one term at one end of all handshakes that are shown: what it would do stands there before it is done. */
export function ChangeManyForm({ job, columns, handshakes }: ChangeManyFormProps) {
  const edits = useEdit(job)
  useUndoKeys(
    () => edits.attempt(edits.undo()),
    () => edits.attempt(edits.redo()),
  )
  const [id, setId] = useState<TermId>(columns[0]?.id ?? 'mask')
  const [end, setEnd] = useState<End>('controller')
  const [text, setText] = useState('')
  const [withProven, setWithProven] = useState(false)
  const term = termDefinition(id)
  const preview = text.trim() === '' ? undefined : previewMany(job, handshakes, id, end, text.trim())
  const change = () => {
    if (!preview || !('changing' in preview)) return
    const changes = changesOf(preview.changing, withProven)
    edits.attempt(
      edits.change(`${term.name} of ${changes.length} changed.`, changes).then(() => {
        setText('')
        setWithProven(false)
      }),
    )
  }
  return (
    <form
      className="mb-3 grid gap-2 border-t border-rule pt-2.5"
      aria-label="Change many"
      onSubmit={(event) => {
        event.preventDefault()
        change()
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label="Change in all that are shown"
          value={id}
          choices={columns.map((column) => ({ value: column.id, label: column.name }))}
          onChange={(next) => setId(next as TermId)}
        />
        <Choice
          label="At the"
          value={end}
          choices={[
            { value: 'controller', label: 'controller end' },
            { value: 'device', label: 'device end' },
          ]}
          onChange={(next) => setEnd(next as End)}
        />
        <Field
          className="w-55"
          label="To"
          typed
          placeholder={term.example}
          value={text}
          trouble={preview && 'refusal' in preview ? preview.refusal : undefined}
          onChange={setText}
        />
        {preview && 'changing' in preview && (
          <Button type="submit" look="act" disabled={changesOf(preview.changing, withProven).length === 0}>
            Change {changesOf(preview.changing, withProven).length}
          </Button>
        )}
      </div>
      {preview && 'changing' in preview && (
        <Preview preview={preview} withProven={withProven} onWithProven={setWithProven} />
      )}
      <Problems reason={edits.problem} />
    </form>
  )
}

function Preview({
  preview: { changing, same, without },
  withProven,
  onWithProven,
}: {
  preview: Extract<ManyPreview, { readonly changing: unknown }>
  withProven: boolean
  onWithProven: (on: boolean) => void
}) {
  const proven = changing.filter(({ isProven }) => isProven)
  return (
    <div role="status">
      <p>
        {changing.length} would change, {same} {same === 1 ? 'has' : 'have'} it already
        {without > 0 ? `, ${without} ${without === 1 ? 'has' : 'have'} no such term` : ''}.
      </p>
      <ul className="note">
        {changing.slice(0, LISTED).map(({ handshake, from, to, isProven }) => (
          <li key={handshake.id}>
            {handshake.name}: {from === '' ? 'not known' : from} → {to}
            {isProven ? ', what is proven rests on it and falls back' : ''}
          </li>
        ))}
        {changing.length > LISTED && <li>and {changing.length - LISTED} more</li>}
      </ul>
      {proven.length > 0 && (
        <Checkbox
          label={`Change the ${proven.length} too that what is proven rests on`}
          checked={withProven}
          onChange={onWithProven}
        />
      )}
    </div>
  )
}
