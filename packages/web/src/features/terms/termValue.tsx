import { cellEdit, cn } from '../../ui'
import { isFromLineUp, type EndStanding } from '@calm/core/job'
import { otherEnd, type End, type EndReading, type TermContext } from '@calm/core/terms'
import { Popover } from 'radix-ui'
import { useRef, useState } from 'react'
import type { PlacedRow } from './claspShape'
import { TermEditor } from './termEditor'
import { TermInPlace, type Trouble } from './termInPlace'
import { textOf, troubleFrom, type TermEdit } from './useTermEdit'

interface TermValueProps {
  readonly place: PlacedRow
  readonly end: End
  readonly context: TermContext
  readonly terms: TermEdit
  readonly standing?: EndStanding | undefined
}

const box =
  'flex-none font-typed text-body leading-tight font-medium whitespace-nowrap group-data-[open=true]:min-w-0 group-data-[open=true]:text-lead group-data-[open=true]:font-strong group-data-[open=true]:text-odds @max-[620px]:max-w-full @max-[620px]:text-typed @max-[620px]:min-w-0'

/**
 * A value of one end. By keyboard: Enter or typing edits it where it stands, Tab goes on to the next one, `=` takes over
 * what the other end says. By mouse, or with Alt Enter: with where it stands and how its document counts.
 */
export function TermValue({ place: { row }, end, context, terms, standing }: TermValueProps) {
  const [open, setOpen] = useState(false)
  const [draft, setDraft] = useState<string | undefined>(undefined)
  const [refused, setRefused] = useState<Trouble | undefined>(undefined)
  const button = useRef<HTMLButtonElement>(null)
  const reading = row.ends[end]
  const tag = context.tags[end]
  const other = row.ends[otherEnd[end]]
  const copy = () => {
    if (other.state === 'blank' || isFromLineUp(row.id, end)) return
    const { text, notation } = other.entry
    const origin = `taken over from ${context.tags[otherEnd[end]]}`
    void terms.edit(row.id, end, { text, notation: notation ?? null, origin })
  }
  if (draft !== undefined) {
    return (
      <span className={cn(box, end === 'controller' && 'min-w-43')}>
        <TermInPlace
          id={row.id}
          end={end}
          tag={tag}
          terms={context.terms}
          entry={reading.state === 'blank' ? undefined : reading.entry}
          begin={draft}
          refused={refused}
          onSave={(next) => {
            terms.edit(row.id, end, next).catch((reason: unknown) => {
              // What was typed stands there again, with the reason.
              setRefused(troubleFrom(reason))
              setDraft(next.text)
            })
          }}
          onClose={() => {
            setRefused(undefined)
            setDraft(undefined)
          }}
        />
      </span>
    )
  }
  return (
    <span className={cn(box, end === 'controller' && 'min-w-43')}>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          ref={button}
          data-term-value={end}
          className={cn(
            cellEdit,
            'm-0 w-auto min-w-full overflow-visible @max-[620px]:overflow-hidden',
            end === 'controller' && 'text-right @max-[620px]:group-data-[open=true]:text-left',
          )}
          aria-label={`${row.name} of ${tag}: ${shownText(reading)}. Edit`}
          onKeyDown={(event) => {
            if (event.ctrlKey || event.metaKey) return
            if (event.key === 'Enter') {
              event.preventDefault()
              if (event.altKey) setOpen(true)
              else setDraft(textOf(reading))
            } else if (SAYS[event.key.toLowerCase()] && reading.state === 'read' && !reading.derived) {
              event.preventDefault()
              event.stopPropagation()
              void terms.say(row.id, end, SAYS[event.key.toLowerCase()] ?? 'entered', reading.entry)
            } else if (event.key === '=') {
              event.preventDefault()
              copy()
            } else if (STARTS_A_TERM.test(event.key) && reading.state === 'blank' && !event.altKey) {
              // The typed character is the first of the value. Over a value that stands there it is a key of the page.
              event.preventDefault()
              event.stopPropagation()
              setDraft(event.key)
            }
          }}
        >
          {reading.state === 'blank' ? (
            <span className="font-text font-read text-ink-soft">{shownText(reading)}</span>
          ) : (
            shownText(reading)
          )}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            className="z-22 w-96 rounded-sm border-2 border-ink bg-sheet px-3 pt-2.5 pb-3"
            sideOffset={4}
            collisionPadding={12}
            aria-label={`${row.name} of ${tag}`}
          >
            <TermEditor
              id={row.id}
              end={end}
              tag={tag}
              terms={context.terms}
              entry={reading.state === 'blank' ? undefined : reading.entry}
              fromLineUp={isFromLineUp(row.id, end)}
              standing={standing}
              onSave={(next) => terms.edit(row.id, end, next)}
              onSeen={(as, seen) => terms.say(row.id, end, as, seen)}
              onClose={() => setOpen(false)}
            />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  )
}

/** Keys that say of a value that it was entered, or is in force, as it is planned. */
const SAYS: Readonly<Record<string, 'entered' | 'in-force'>> = { e: 'entered', i: 'in-force' }

const STARTS_A_TERM = /^[0-9]$/

const shownText = (reading: EndReading): string =>
  reading.state === 'blank' ? 'not known' : reading.state === 'read' ? reading.shown : reading.entry.text
