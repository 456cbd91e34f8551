import type { Refusal } from '@calm/core/units'
import { termDefinition, type End, type HandshakeTerms, type TermEntry, type TermId } from '@calm/core/terms'
import { useId, useLayoutEffect, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { cn, input, RefusalNote } from '../../ui'
import { originOf, type TermText } from './useTermEdit'

interface TermInPlaceProps {
  readonly id: TermId
  readonly end: End
  readonly tag: string
  readonly terms: HandshakeTerms
  readonly entry: TermEntry | undefined
  /** What stands in the field at first. */
  readonly begin: string
  /** Why the same text was not saved a moment ago. */
  readonly refused: Trouble | undefined
  readonly onSave: (next: TermText) => void
  readonly onClose: () => void
}

export type Trouble = Pick<Refusal, 'what' | 'expected'> & { readonly offers?: Refusal['offers'] }

/** A term typed where it stands, with its help beside it. Enter and Tab save it; Tab goes on, Escape leaves it. */
export function TermInPlace({ id, end, tag, terms, entry, begin, refused, onSave, onClose }: TermInPlaceProps) {
  const term = termDefinition(id)
  const [text, setText] = useState(begin)
  const [trouble, setTrouble] = useState<Trouble | undefined>(refused)
  const field = useRef<HTMLInputElement>(null)
  const over = useRef(false)
  const noteId = useId()
  useLayoutEffect(() => {
    // The field was asked for a moment ago; what stands there is replaced by typing, what was just typed is gone on with.
    field.current?.focus()
    if (field.current?.value.length !== 1) field.current?.select()
  }, [])

  /** What would be saved; `undefined` where it cannot be read, with the reason on the screen. */
  const check = (value: string): TermText | undefined => {
    const typed = value.trim()
    const next = { text: typed, origin: originOf(entry, end, tag), notation: entry?.notation }
    const reading = typed === '' ? undefined : term.parse(next, { terms, end })
    if (reading?.ok !== false) return { ...next, notation: next.notation ?? null }
    setTrouble(reading.refusal)
    return undefined
  }
  /** Goes on at once, so that the next key goes where the person looks; saving follows. */
  const leave = (value: string, goOn: 0 | 1 | -1 | undefined) => {
    if (over.current) return
    const next = check(value)
    if (!next) return
    over.current = true
    const neighbour = goOn === undefined ? undefined : neighbourOf(field.current, goOn)
    flushSync(onClose)
    if (neighbour) focusValue(neighbour)
    if (next.text !== (entry?.text ?? '')) onSave(next)
  }
  return (
    <span className="relative block">
      <input
        ref={field}
        className={cn(input({ typed: true, size: 'small' }), 'h-6.75 w-43')}
        data-term-field
        aria-label={`${term.name} of ${tag}`}
        aria-invalid={trouble !== undefined}
        aria-describedby={noteId}
        placeholder={term.example}
        list={term.choices && `${noteId}-choices`}
        value={text}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => {
          setText(event.target.value)
          setTrouble(undefined)
        }}
        onBlur={() => leave(text, undefined)}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter' || event.key === 'Tab') {
            event.preventDefault()
            leave(text, event.key === 'Enter' ? 0 : event.shiftKey ? -1 : 1)
          }
          if (event.key === 'Escape') {
            over.current = true
            onClose()
          }
        }}
      />
      {term.choices && (
        <datalist id={`${noteId}-choices`}>
          {term.choices.map((choice) => (
            <option key={choice.text} value={choice.text} label={choice.label} />
          ))}
        </datalist>
      )}
      <span
        id={noteId}
        className="absolute top-8 left-0 z-20 block w-72 rounded-sm border-2 border-ink bg-sheet px-2.5 py-1.5 text-left font-text text-note font-read whitespace-normal text-ink"
      >
        {trouble ? (
          <RefusalNote id={`${noteId}-refusal`} refusal={trouble} onOffer={(value) => leave(value, 0)} />
        ) : (
          `${term.explain} For example ${term.example}.`
        )}
      </span>
    </span>
  )
}

interface Neighbour {
  readonly term: string
  readonly end: string
  /** Whether it is opened at once, so that typing goes on. */
  readonly opens: boolean
}

/** The value that Tab goes on to: the next one of the same end; past its last one nothing. With 0 the value itself. */
function neighbourOf(field: HTMLElement | null, by: 0 | 1 | -1): Neighbour | undefined {
  const row = field?.closest<HTMLElement>('[data-term]')
  const end = field?.closest('.left') ? 'controller' : 'device'
  const rows = [...document.querySelectorAll<HTMLElement>('[data-term]')]
  const next = row && rows[rows.indexOf(row) + by]
  return next?.dataset.term === undefined ? undefined : { term: next.dataset.term, end, opens: by !== 0 }
}

function focusValue({ term, end, opens }: Neighbour) {
  const button = document.querySelector<HTMLElement>(`[data-term="${term}"] [data-term-value="${end}"]`)
  button?.focus()
  if (opens) button?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }))
}
