import { readFieldList, type PictureComparison, type PictureDifference } from '@calm/core/procedure'
import type { RungState } from '@calm/core/ladder'
import { format } from 'date-fns/format'
import { useState } from 'react'
import { api } from '@calm/contract/api'
import { call, useKeepsakes } from '../../../api'
import { Area, Button, Dialog, Glyph, Problems, Scroll } from '../../../ui'
import type { ViewProps } from '../viewProps'

interface Shown {
  readonly title: string
  readonly text: string
  /** Of a label: its picture. */
  readonly image: string
}

/** What is kept as evidence: pictures of what ran, console sessions, searches. */
export function KeptView({ job, acts }: ViewProps) {
  const kept = useKeepsakes(job.id)
  const [notes, setNotes] = useState('')
  const [list, setList] = useState('')
  const twice = readFieldList(list).twice
  const [comparison, setComparison] = useState<PictureComparison | 'no-before' | undefined>(undefined)
  const [shown, setShown] = useState<Shown | undefined>(undefined)
  const take = async (when: 'before' | 'after') => {
    const lines = notes
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '')
    const answer = await acts.takePicture(when, lines, list.trim() === '' ? undefined : list).catch(() => undefined)
    if (!answer) return
    setNotes('')
    setList('')
    setComparison(when === 'after' ? (answer.comparison ?? 'no-before') : undefined)
    void kept.refetch()
  }
  const open = async (id: string, title: string) => {
    const { content } = (await call(api.keepsake, { jobId: job.id, id })) as {
      readonly content: { readonly text?: string; readonly image?: string }
    }
    const { image = '', ...rest } = content
    setShown({ title, image, text: content.text ?? JSON.stringify(rest, null, 2) })
  }
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-6 pt-4 pb-8">
      <section aria-label="Picture of what runs">
        <h2>Picture of what runs</h2>
        <p className="note">Who answers is looked at now; alarms and key values are written down.</p>
        <Area
          className="my-2 max-w-155"
          label="Alarms and key values, one in a line"
          rows={3}
          value={notes}
          onChange={setNotes}
        />
        <Area
          className="my-2 max-w-155"
          label="Field devices, as another screen lists them: name and status, one in a line"
          rows={3}
          typed
          value={list}
          onChange={setList}
        />
        {twice.length > 0 && (
          <p className="note" role="status">
            Twice in the list: {twice.join(', ')}. The first line counts.
          </p>
        )}
        <div className="flex flex-wrap items-center gap-2.5">
          <Button look="act" disabled={acts.of('pictures').busy} onClick={() => void take('before')}>
            Take the before-picture
          </Button>
          <Button disabled={acts.of('pictures').busy} onClick={() => void take('after')}>
            Compare with now
          </Button>
        </div>
        <Problems reason={acts.of('pictures').problem} />
        {comparison && <Compared comparison={comparison} />}
      </section>
      <section aria-label="Kept" className="mt-6">
        <h2>Kept</h2>
        <ul>
          {kept.data?.map((each) => (
            <li className="flex items-baseline gap-4 py-0.75" key={each.id}>
              <Button look="plain" onClick={() => void open(each.id, each.title)}>
                {each.title}
              </Button>
              <span className="note">
                {each.who}, {format(each.at, 'd MMM HH:mm')}
              </span>
            </li>
          ))}
          {kept.data?.length === 0 && <li className="flex items-baseline gap-4 py-0.75 note">Nothing yet.</li>}
        </ul>
      </section>
      {shown && (
        <Dialog title={shown.title} open onClose={() => setShown(undefined)} room="wide">
          {shown.image !== '' && <img src={shown.image} alt={shown.title} className="mt-3 max-h-[40vh] max-w-full" />}
          <Scroll label={shown.title} className="mt-3 max-h-[60vh] bg-well">
            <pre className="p-3 font-typed font-medium whitespace-pre-wrap">{shown.text}</pre>
          </Scroll>
        </Dialog>
      )}
    </div>
  )
}

const STATE_OF: Readonly<Record<PictureDifference['kind'], RungState>> = {
  'new-fault': 'at-odds',
  better: 'proven',
  'not-seen': 'parked',
  'old-fault': 'parked',
  changed: 'parked',
  added: 'parked',
}

/** What is different, and apart from it what could not be compared: of that nothing is said to be as it was. */
function Compared({ comparison }: { readonly comparison: PictureComparison | 'no-before' }) {
  if (comparison === 'no-before')
    return (
      <p role="status" className="mt-3">
        Not conclusive: no before-picture is kept. This one is kept as the picture afterwards.
      </p>
    )
  const { differences, compared, of } = comparison
  const different = differences.filter(({ kind }) => kind !== 'not-seen')
  const unseen = differences.filter(({ kind }) => kind === 'not-seen')
  return (
    <ul role="status" className="mt-3">
      <li className="flex items-center gap-2 py-0.75">
        {compared === 0 ? (
          'Not conclusive: nothing was looked at both times.'
        ) : (
          <>
            {different.length === 0 && <Glyph state="proven" size={16} />}
            {different.length === 0 ? 'As it was before. ' : ''}
            {`Compared ${compared} of ${of}.`}
          </>
        )}
      </li>
      {different.map((each) => (
        <li className="flex items-center gap-2 py-0.75" key={each.tag}>
          <Glyph state={STATE_OF[each.kind]} size={16} />
          <b>{each.tag}</b> {each.say}
        </li>
      ))}
      {[...new Set(unseen.map(({ say }) => say))].map((say) => (
        <li className="py-0.75 note" key={say}>
          {say}{' '}
          {unseen
            .filter((each) => each.say === say)
            .map(({ tag }) => tag)
            .join(', ')}
        </li>
      ))}
    </ul>
  )
}
