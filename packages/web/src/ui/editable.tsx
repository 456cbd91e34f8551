import type { Result } from '@calm/core/units'
import { useEffect, useId, useRef, useState } from 'react'
import { ProblemError } from '../api'
import { Button } from './button'
import { cn } from './cn'
import { input } from './input'
import { RefusalNote } from './refusalNote'
import { tipWhenCut } from './tips'

/** A value that can be edited where it stands: looks like text, answers like a button. */
export const cellEdit =
  '-ml-1 block min-h-6.75 w-full overflow-hidden rounded-sm px-1 text-left text-ellipsis whitespace-nowrap hover:bg-ground-press focus-visible:-outline-offset-2'

const say =
  'absolute top-8.25 -left-1 z-8 w-max max-w-82.5 rounded-sm border-2 border-odds-mark bg-sheet px-2.5 py-2 whitespace-normal'

interface EditableProps {
  readonly label: string
  /** What stands there now; what is typed begins with it. */
  readonly text: string
  readonly shown?: React.ReactNode
  /** What `shown` says, where that is not the text itself. */
  readonly spoken?: string
  readonly typed?: boolean
  readonly className?: string
  /** Of the field that it becomes. */
  readonly inputClassName?: string
  /** Reads what was typed; what it refuses stays on the screen with the reason. */
  readonly read: (text: string) => Result<unknown>
  readonly onSave: (text: string) => Promise<unknown>
  readonly onOpen?: () => void
  /** What can stand there, offered while it is typed. */
  readonly choices?: readonly string[] | undefined
  /** Whether Tab stops here; a table lets it stop in one row only. */
  readonly tabStop?: boolean
  /** Ctrl Enter: the same text in all chosen rows. */
  readonly onSaveAll?: ((text: string) => void) | undefined
}

type Trouble = {
  readonly what: string
  readonly expected: string
  readonly offers?: readonly { label: string; value: string }[]
}

/** A value that is edited where it stands: Enter or F2 opens it, Enter saves, Escape leaves it as it was. */
export function Editable(props: EditableProps) {
  const [draft, setDraft] = useState<string | undefined>(undefined)
  const [trouble, setTrouble] = useState<Trouble | undefined>(undefined)
  /** Somebody else saved this while it was typed. Nothing is saved then until the person has chosen. */
  const [conflict, setConflict] = useState(false)
  const button = useRef<HTMLButtonElement>(null)
  const field = useRef<HTMLInputElement>(null)
  const back = useRef(false)
  const saving = useRef(false)
  const opened = useRef(false)
  const noteId = useId()
  useEffect(() => {
    if (draft === undefined && back.current) {
      back.current = false
      button.current?.focus()
    }
  }, [draft])

  const close = () => {
    setDraft(undefined)
    setTrouble(undefined)
    setConflict(false)
    opened.current = false
  }
  const save = async (text: string) => {
    // Leaving the field while it is being saved must not save it a second time.
    if (saving.current) return
    if (text.trim() === props.text.trim()) return close()
    const reading = props.read(text)
    if (!reading.ok) return setTrouble(reading.refusal)
    saving.current = true
    try {
      await props.onSave(text.trim())
      // Back to where the value stands, unless the person has gone on meanwhile.
      back.current &&= document.activeElement === field.current || document.activeElement === document.body
      close()
    } catch (reason) {
      back.current = false
      if (reason instanceof ProblemError && reason.status === 409) return setConflict(true)
      const [problem] = reason instanceof ProblemError ? reason.problems : []
      setTrouble(problem ?? { what: 'It could not be saved. What you typed stays here.', expected: '' })
    } finally {
      saving.current = false
    }
  }

  if (draft === undefined) {
    return (
      <button
        ref={button}
        type="button"
        data-edit
        className={cn(cellEdit, props.className)}
        tabIndex={props.tabStop === false ? -1 : undefined}
        aria-label={`${props.label}: ${props.spoken ?? (props.text || 'blank')}. Edit`}
        {...tipWhenCut(props.text)}
        onClick={(event) => {
          // With Shift the click chooses rows.
          if (event.shiftKey) return
          event.stopPropagation()
          props.onOpen?.()
          setDraft(props.text)
        }}
        onKeyDown={(event) => event.key === 'F2' && setDraft(props.text)}
      >
        {props.shown ?? (props.text || <span className="text-ink-soft">–</span>)}
      </button>
    )
  }
  return (
    <span className="relative block">
      <input
        ref={(input) => {
          field.current = input
          // The field was asked for by the person a moment ago.
          if (input && !opened.current) {
            opened.current = true
            input.focus()
          }
        }}
        className={cn(
          input({ typed: props.typed ?? false }),
          'relative z-7 -ml-1 h-7.25 min-w-43 px-1',
          props.inputClassName,
        )}
        aria-label={props.label}
        aria-invalid={trouble !== undefined || conflict}
        aria-describedby={trouble ? noteId : undefined}
        value={draft}
        list={props.choices && `${noteId}-choices`}
        spellCheck={false}
        autoComplete="off"
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setDraft(event.target.value)
          setTrouble(undefined)
          setConflict(false)
        }}
        onBlur={() => conflict || void save(draft)}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter') {
            // Else the same key press would open it again, once the focus is back on the button.
            event.preventDefault()
            back.current = true
            if ((event.ctrlKey || event.metaKey) && props.onSaveAll && props.read(draft).ok) {
              props.onSaveAll(draft)
              close()
            } else void save(draft)
          }
          if (event.key === 'Escape') {
            back.current = true
            close()
          }
        }}
      />
      {props.choices && (
        <datalist id={`${noteId}-choices`}>
          {props.choices.map((choice) => (
            <option key={choice} value={choice} />
          ))}
        </datalist>
      )}
      {conflict && (
        <span className={say} data-say role="alert">
          <span className="grid justify-items-start gap-1 text-note leading-snug text-odds">
            <span>
              Somebody else saved this meanwhile. It now says {props.text || 'nothing'}; you typed {draft}.
            </span>
            <Button onClick={close}>Keep {props.text || 'it blank'}</Button>
            <Button onClick={() => (setConflict(false), void save(draft))}>Save {draft} instead</Button>
          </span>
        </span>
      )}
      {trouble && (
        <span className={say} data-say>
          <RefusalNote
            id={noteId}
            refusal={trouble}
            onOffer={(value) => {
              back.current = true
              setDraft(value)
              void save(value)
            }}
          />
        </span>
      )}
    </span>
  )
}
