import { api as paths } from '@calm/contract/api'
import type { SettingSeen, SettingsSeen } from '@calm/contract'
import {
  meansTheSame,
  mirrorsOf,
  sayStanding,
  standingWords,
  type Handshake,
  type Job,
  type TermStanding,
} from '@calm/core/job'
import { readMirror, type Clasp, type ClaspRow, type TermContext, type TermId } from '@calm/core/terms'
import { useState } from 'react'
import { call, newId } from '../../api'
import { useEdit } from '../../edit'
import { Button, Choice, cn, Dialog, Field, formActions, Glyph, Problems } from '../../ui'

interface ReadProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly clasp: Clasp
  readonly context: TermContext
  readonly onClose: () => void
}

/** What a device shows of its settings itself: registers that mirror them, read once, and taken over as they were found. */
export function ReadFound({ job, handshake, clasp, context, onClose }: ReadProps) {
  const edits = useEdit(job)
  const [termId, setTermId] = useState<TermId | undefined>(undefined)
  const [text, setText] = useState('')
  const [seen, setSeen] = useState<SettingsSeen | undefined>(undefined)
  const [reading, setReading] = useState(false)
  const mirrors = mirrorsOf(job, handshake)
  const rows = [...clasp.rows, ...clasp.more]
  const rowOf = (id: TermId) => rows.find((row) => row.id === id)
  const free = clasp.rows.filter(({ id }) => mirrors.every((each) => each.termId !== id))
  const chosen = termId !== undefined && free.some(({ id }) => id === termId) ? termId : free[0]?.id
  const mirror = readMirror(text)
  const keep = (next: typeof mirrors, say: string) =>
    edits.attempt(edits.set(say, 'handshake', handshake, { mirrors: next }))
  const add = () => {
    if (chosen === undefined || !mirror.ok) return
    keep(
      [...handshake.mirrors.filter((each) => each.termId !== chosen), { termId: chosen, text: text.trim() }],
      'Register of a setting added.',
    )
    setText('')
  }
  // A blank text says that there is none, also where the kind says one.
  const remove = (id: TermId) =>
    keep(
      [...handshake.mirrors.filter((each) => each.termId !== id), { termId: id, text: '' }],
      'Register of a setting removed.',
    )
  const read = () => {
    setReading(true)
    edits.attempt(
      call(paths.readSettings, { id: handshake.id })
        .then(setSeen)
        .finally(() => setReading(false)),
    )
  }
  const good = (seen?.settings ?? []).flatMap((setting) => {
    const row = rowOf(setting.termId)
    return setting.silence === '' && row ? [{ setting, row }] : []
  })
  const take = (mirroredAs: TermStanding) => {
    const changes = good.map(({ setting, row }) => {
      const standing = setting.standing === 'found' ? mirroredAs : setting.standing
      const said = {
        row,
        end: 'device',
        standing,
        entry: { text: setting.text },
        how: 'read-live',
        origin: setting.origin,
      } as const
      return sayStanding(edits.now(), handshake, said, newId)
    })
    edits.attempt(edits.change(`${changes.length} settings of ${context.tags.device} read.`, changes).then(onClose))
  }
  return (
    <Dialog
      title={`What ${context.tags.device} shows of its settings`}
      say="Many devices mirror settings in registers: its manual says where. They are only read, each once."
      open
      onClose={onClose}
    >
      <div className="mt-3 grid gap-3">
        {mirrors.length > 0 && (
          <ul className="grid gap-1 text-row" aria-label="Registers of settings">
            {mirrors.map((each) => (
              <li key={each.termId} className="flex flex-wrap items-center gap-x-2">
                <b className="font-heavy">{rowOf(each.termId)?.name ?? each.termId}</b>
                <span className="min-w-0 font-typed break-words">{each.text}</span>
                <Button look="plain" className="h-auto text-note" onClick={() => remove(each.termId)}>
                  Remove
                </Button>
              </li>
            ))}
          </ul>
        )}
        {chosen !== undefined && (
          <form
            className="grid grid-cols-[180px_1fr_auto] items-end gap-3 max-phone:grid-cols-1"
            onSubmit={(event) => {
              event.preventDefault()
              add()
            }}
          >
            <Choice
              label="Setting"
              value={chosen}
              choices={free.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={setTermId}
            />
            <Field
              label="Where it is mirrored"
              typed
              placeholder="40021: 0 = 9600 8N1, 1 = 9600 8E1"
              value={text}
              trouble={text.trim() === '' || mirror.ok ? undefined : mirror.refusal}
              onChange={setText}
            />
            <Button type="submit" disabled={!mirror.ok}>
              Add
            </Button>
          </form>
        )}
        {seen && <SeenList seen={seen} rowOf={rowOf} context={context} />}
        <Problems reason={edits.problem} />
      </div>
      <div className={cn(formActions, 'mt-4')}>
        <Button
          look={good.length === 0 ? 'act' : undefined}
          disabled={reading || (mirrors.length === 0 && job.mode === 'plant')}
          onClick={read}
        >
          {reading ? 'Reading' : 'Read them'}
        </Button>
        {good.length > 0 && (
          <>
            <Button look="act" onClick={() => take('found')}>
              Take {good.length}: registers as found
            </Button>
            <Button onClick={() => take('in-force')}>Registers as in force</Button>
          </>
        )}
      </div>
    </Dialog>
  )
}

interface ListProps {
  readonly seen: SettingsSeen
  readonly rowOf: (id: TermId) => ClaspRow | undefined
  readonly context: TermContext
}

function SeenList({ seen, rowOf, context }: ListProps) {
  if (seen.settings.length === 0) return <p className="note">It shows none of its settings.</p>
  return (
    <ul className="grid gap-1 text-row" aria-label="What was read">
      {seen.settings.map((setting) => (
        <SeenLine
          key={`${setting.termId} ${setting.standing}`}
          setting={setting}
          row={rowOf(setting.termId)}
          context={context}
        />
      ))}
    </ul>
  )
}

interface LineProps {
  readonly setting: SettingSeen
  readonly row: ClaspRow | undefined
  readonly context: TermContext
}

function SeenLine({ setting, row, context }: LineProps) {
  const { termId, standing, text, silence, origin } = setting
  const planned = row?.ends.device
  const plan = !planned || planned.state === 'blank' ? undefined : planned.entry.text.trim()
  const asPlanned = plan !== undefined && meansTheSame(termId, 'device', { text: plan }, { text }, context.terms)
  const state = silence !== '' ? 'at-odds' : asPlanned ? 'proven' : 'waiting'
  return (
    <li className="flex flex-wrap items-center gap-x-2">
      <Glyph state={state} size={13} />
      {row?.name ?? termId} <span className="font-typed">{text}</span>
      <span className="text-note text-ink-soft">
        {silence !== ''
          ? silence
          : !row
            ? 'this handshake has no such term: not taken'
            : plan === undefined
              ? 'not planned'
              : asPlanned
                ? 'as planned'
                : `planned ${plan}`}
        {` (${origin}${standing === 'found' ? '' : `, ${standingWords[standing]}`})`}
      </span>
    </li>
  )
}
