import { Button } from './button'
import { formActions } from './input'

interface SaveRowProps {
  /** What taking it away is called; left out where it cannot be taken away. */
  readonly remove: { readonly name: string; readonly onRemove: () => void } | undefined
}

/** How a form of one row ends: saved, or the row taken away. */
export function SaveRow({ remove }: SaveRowProps) {
  return (
    <div className={formActions}>
      <Button type="submit" look="act" size="tall">
        Save
      </Button>
      {remove && (
        <Button look="plain" onClick={remove.onRemove}>
          Remove {remove.name}
        </Button>
      )}
    </div>
  )
}

interface AskRowProps {
  /** What is done, for example "Remove it". */
  readonly act: string
  readonly onAct: () => void
  readonly onLeave: () => void
}

/** How a question ends: done, or everything left as it is. */
export function AskRow({ act, onAct, onLeave }: AskRowProps) {
  return (
    <div className={formActions}>
      <Button look="act" size="tall" onClick={onAct}>
        {act}
      </Button>
      <Button size="tall" onClick={onLeave}>
        Leave it
      </Button>
    </div>
  )
}
