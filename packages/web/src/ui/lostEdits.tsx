import { useSyncExternalStore } from 'react'
import { Button } from './button'
import { Toast } from './toast'

/** What was typed in a cell that is gone, and could not be saved. */
interface LostEdit {
  readonly label: string
  readonly text: string
  readonly what: string
}

let lost: readonly LostEdit[] = []
const listeners = new Set<() => void>()
const put = (next: readonly LostEdit[]) => {
  lost = next
  for (const listener of listeners) listener()
}
const listen = (listener: () => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** Tells at the foot of the page what could not be saved, where the cell that it was typed in is out of sight by then. */
export const tellLost = (edit: LostEdit): void => put([...lost, edit])

/** What could not be saved and has no cell to say so in any more. */
export function LostEdits() {
  const all = useSyncExternalStore(listen, () => lost)
  return all.map((edit) => (
    <Toast
      key={`${edit.label} ${edit.text}`}
      urgent
      action={<Button onClick={() => put(lost.filter((each) => each !== edit))}>Seen</Button>}
    >
      {edit.label} was not saved: {edit.what} You typed <b className="font-typed">{edit.text || 'nothing'}</b>.
    </Toast>
  ))
}
