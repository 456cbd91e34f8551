import { sayStanding, standingWords, type Handshake, type Job, type TermStanding } from '@calm/core/job'
import { readSettingsText, type Clasp, type End, type TermContext } from '@calm/core/terms'
import { useMemo, useState } from 'react'
import { newId, ProblemError } from '../../api'
import { useEdit } from '../../edit'
import { decodeText } from '../../pasted'
import { Area, Button, Choice, Dialog, FilePicker, formActions, Glyph, Problems } from '../../ui'

/** A list of settings is far smaller; something larger is another file. */
const FILE_LIMIT = 1024 * 1024

interface PasteProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly clasp: Clasp
  readonly context: TermContext
  readonly onClose: () => void
}

/** The text of a menu, a page or an export, pasted: what it says of the terms of one end, against the plan. */
export function PasteFound({ job, handshake, clasp, context, onClose }: PasteProps) {
  const edits = useEdit(job)
  const [text, setText] = useState('')
  const [end, setEnd] = useState<End>('device')
  const [as, setAs] = useState<TermStanding>('found')
  const read = useMemo(() => readSettingsText(text, clasp.rows, end, context.terms), [text, clasp, end, context])
  const good = read.found.filter(({ refusal }) => refusal === undefined)
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const takeFile = (file: File) => {
    setTrouble(undefined)
    if (file.size > FILE_LIMIT)
      return setTrouble(
        new ProblemError(413, [
          {
            what: `${file.name} has ${file.size} bytes.`,
            where: '',
            expected: 'the settings of one device, at most 1 MB',
            found: `${file.size} bytes`,
          },
        ]),
      )
    void file.arrayBuffer().then((bytes) => setText(decodeText(new Uint8Array(bytes)).text), setTrouble)
  }
  const take = () => {
    const changes = good.map(({ row, text: value }) => {
      const said = { row, end, standing: as, entry: { text: value }, how: 'typed', origin: 'pasted text' } as const
      return sayStanding(edits.now(), handshake, said, newId)
    })
    edits.attempt(edits.change(`${changes.length} terms ${standingWords[as]}, pasted.`, changes).then(onClose))
  }
  return (
    <Dialog
      title="Paste what a menu or a page shows"
      say="A line for each setting: name, then : or = or a tab, then the value."
      open
      onClose={onClose}
    >
      <div className="mt-3 grid gap-3">
        <div className="grid grid-cols-2 gap-4">
          <Choice
            label="Of"
            value={end}
            choices={(['device', 'controller'] as const).map((value) => ({ value, label: context.tags[value] }))}
            onChange={setEnd}
          />
          <Choice
            label="Taken as"
            value={as}
            choices={(['found', 'entered', 'in-force'] as const).map((value) => ({
              value,
              label: standingWords[value],
            }))}
            onChange={setAs}
          />
        </div>
        <div>
          <FilePicker label="Exported settings" accept=".txt,.csv,.ini,.cfg,.log,text/plain" onFile={takeFile}>
            Choose a file
          </FilePicker>
        </div>
        <Area label="Text" value={text} typed onChange={setText} />
        {read.found.length > 0 && (
          <ul className="text-row" aria-label="What was read">
            {read.found.map(({ row, line, text: value, refusal }) => {
              const planned = row.ends[end]
              const plan = planned.state === 'blank' ? 'not planned' : planned.entry.text
              const state = refusal ? 'at-odds' : plan === value ? 'proven' : 'waiting'
              return (
                <li key={row.id} className="flex flex-wrap items-center gap-x-2">
                  <Glyph state={state} size={13} />
                  {row.name} <span className="font-typed">{value}</span>
                  <span className="text-note text-ink-soft">
                    {refusal
                      ? `line ${line}: ${refusal.what} Expected ${refusal.expected}.`
                      : plan === value
                        ? 'as planned'
                        : `planned ${plan}`}
                  </span>
                </li>
              )
            })}
          </ul>
        )}
        {read.unplaced.length > 0 && (
          <p className="note">
            Not placed:{' '}
            {read.unplaced
              .slice(0, 6)
              .map(({ line, text: raw }) => `line ${line} "${raw.slice(0, 40)}"`)
              .join(', ')}
            {read.unplaced.length > 6 && ` and ${read.unplaced.length - 6} more`}.
          </p>
        )}
        <Problems reason={trouble ?? edits.problem} />
      </div>
      <div className={formActions}>
        <Button look="act" disabled={good.length === 0} onClick={take}>
          {good.length === 0 ? 'Nothing to take' : `Take ${good.length}: ${standingWords[as]}`}
        </Button>
      </div>
    </Dialog>
  )
}
