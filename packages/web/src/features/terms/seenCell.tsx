import { standingWords, type EndStanding, type Handshake, type TermStanding } from '@calm/core/job'
import { termDefinition, type ClaspRow, type End, type TermContext } from '@calm/core/terms'
import type { Refusal } from '@calm/core/units'
import { useEffect, useRef, useState } from 'react'
import { cellEdit, cn, input, RefusalNote, tip } from '../../ui'
import type { Standings } from './useStandings'

export interface EndProps {
  readonly handshake: Handshake
  readonly row: ClaspRow
  readonly end: End
  readonly tag: string
  readonly standing: EndStanding | undefined
  readonly standings: Standings
  readonly context: TermContext
}

/** One value that was seen; typed where it stands. */
export function SeenCell({
  handshake,
  row,
  end,
  tag,
  standing,
  standings,
  context,
  column,
}: EndProps & { column: TermStanding }) {
  const [draft, setDraft] = useState<string | undefined>(undefined)
  const [trouble, setTrouble] = useState<Refusal | undefined>(undefined)
  const field = useRef<HTMLInputElement>(null)
  const isTyped = draft !== undefined
  useEffect(() => {
    if (isTyped) field.current?.focus()
  }, [isTyped])
  const reading = row.ends[end]
  const planned = reading.state === 'blank' ? undefined : reading.entry
  const seen = standing?.seen[column]
  const save = (text: string) => {
    const entry = { text: text.trim(), notation: planned?.notation }
    if (entry.text === '') return setDraft(undefined)
    const read = termDefinition(row.id).parse({ ...entry, origin: '' }, { terms: context.terms, end })
    if (!read.ok) return setTrouble(read.refusal)
    setDraft(undefined)
    setTrouble(undefined)
    standings.attempt(standings.say(handshake, row, end, column, entry))
  }
  const name = `${row.name} of ${tag}, ${standingWords[column]}`
  if (draft !== undefined)
    return (
      <span className="relative block">
        <input
          ref={field}
          className={cn(input({ typed: true, size: 'small' }), 'h-6.75 w-full min-w-24')}
          aria-label={name}
          aria-invalid={trouble !== undefined}
          value={draft}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            setDraft(event.target.value)
            setTrouble(undefined)
          }}
          onBlur={() => trouble === undefined && save(draft)}
          onKeyDown={(event) => {
            event.stopPropagation()
            if (event.key === 'Enter') save(draft)
            if (event.key === 'Escape') {
              setTrouble(undefined)
              setDraft(undefined)
            }
          }}
        />
        {trouble && (
          <span className="absolute top-8 left-0 z-20 block w-72 rounded-sm border-2 border-ink bg-sheet px-2.5 py-1.5">
            <RefusalNote id={`columns-${row.id}-${end}-${column}`} refusal={trouble} onOffer={save} />
          </span>
        )}
      </span>
    )
  const asPlanned = seen !== undefined && planned !== undefined && seen.text === planned.text.trim()
  return (
    <button
      type="button"
      data-seen={column}
      className={cn(
        cellEdit,
        'm-0 h-6.75 w-full min-w-20 text-left font-typed',
        seen && !asPlanned && 'font-strong text-odds',
      )}
      aria-label={`${name}: ${seen?.text ?? 'not said'}`}
      onClick={() => setDraft(seen?.text ?? planned?.text ?? '')}
      onKeyDown={(event) => {
        goWithArrows(event)
        if (event.key !== '=' || !planned) return
        event.preventDefault()
        save(planned.text)
      }}
      {...tip(seen ? `${seen.how}${seen.origin && `, ${seen.origin}`}${seen.who && `, ${seen.who}`}` : '')}
    >
      {seen ? asPlanned ? <span className="font-text text-note text-ink-soft">as planned</span> : seen.text : ''}
    </button>
  )
}

/** Arrow keys go from cell to cell of the table, over what cannot be written. */
function goWithArrows(event: React.KeyboardEvent<HTMLElement>) {
  const cell = event.currentTarget
  const by = arrows[event.key]
  if (!by) return
  event.preventDefault()
  const rows = [...(cell.closest('tbody')?.children ?? [])].map((row) => [...row.children])
  let y = rows.findIndex((cells) => cells.some((each) => each.contains(cell)))
  let x = rows[y]?.findIndex((each) => each.contains(cell)) ?? 0
  for (;;) {
    ;[y, x] = [y + by[0], x + by[1]]
    const next = rows[y]?.[x]
    if (!next) return
    const button = next.querySelector<HTMLElement>('button[data-seen]')
    if (button) return button.focus()
  }
}
const arrows: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
}
