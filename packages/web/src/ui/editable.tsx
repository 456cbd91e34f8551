import type { Result } from '@calm/core/units'
import { useId } from 'react'
import { Button } from './button'
import { cn } from './cn'
import { input } from './input'
import { RefusalNote } from './refusalNote'
import { tipWhenCut } from './tips'
import { useEditing } from './useEditing'

/** A value that can be edited where it stands: looks like text, answers like a button. */
export const cellEdit =
  '-ml-1 block min-h-6.75 w-full overflow-hidden rounded-sm px-1 text-left text-ellipsis whitespace-nowrap hover:bg-ground-press focus-visible:-outline-offset-2'

const say =
  'absolute top-8.25 -left-1 z-8 w-max max-w-82.5 rounded-sm border-2 border-odds-mark bg-sheet px-2.5 py-2 whitespace-normal'

/** What the server takes long to take is set off from what it has taken. */
const slow = 'text-ink-soft transition-colors delay-500'

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

/** A value that is edited where it stands: Enter or F2 opens it, Enter saves, Escape leaves it as it was. */
export function Editable(props: EditableProps) {
  const {
    draft,
    trouble,
    conflict,
    standing,
    isSending,
    button,
    appear,
    open,
    type,
    save,
    saveInstead,
    close,
    goBack,
  } = useEditing(props)
  const noteId = useId()
  /** What was typed stands there before the job says what came of it. */
  const isSent = standing !== props.text
  if (draft === undefined) {
    return (
      <button
        ref={button}
        type="button"
        data-edit
        className={cn(cellEdit, props.className, isSending && slow)}
        tabIndex={props.tabStop === false ? -1 : undefined}
        aria-busy={isSending}
        aria-label={`${props.label}: ${(isSent ? undefined : props.spoken) ?? (standing || 'blank')}. Edit`}
        {...tipWhenCut(standing)}
        onClick={(event) => {
          // With Shift the click chooses rows.
          if (event.shiftKey) return
          event.stopPropagation()
          props.onOpen?.()
          open()
        }}
        onKeyDown={(event) => event.key === 'F2' && open()}
      >
        {(isSent ? undefined : props.shown) ?? (standing || <span className="text-ink-soft">–</span>)}
      </button>
    )
  }
  return (
    <span className="relative block">
      <input
        ref={appear}
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
        onChange={(event) => type(event.target.value)}
        onBlur={() => conflict || save(draft)}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter') {
            // Else the same key press would open it again, once the focus is back on the button.
            event.preventDefault()
            goBack()
            if ((event.ctrlKey || event.metaKey) && props.onSaveAll && props.read(draft).ok) {
              props.onSaveAll(draft)
              close()
            } else save(draft)
          }
          if (event.key === 'Escape') {
            goBack()
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
            <Button onClick={() => saveInstead(draft)}>Save {draft} instead</Button>
          </span>
        </span>
      )}
      {trouble && (
        <span className={say} data-say>
          <RefusalNote
            id={noteId}
            refusal={trouble}
            onOffer={(value) => {
              goBack()
              type(value)
              save(value)
            }}
          />
        </span>
      )}
    </span>
  )
}
