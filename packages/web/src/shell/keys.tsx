import { useLayoutEffect, useRef } from 'react'
import { Dialog, isTyping } from '../ui'

/** Listens to single keys of the page while it is not typed in and no dialog is open. */
export function usePageKeys(handlers: Readonly<Record<string, () => void>>): void {
  const current = useRef(handlers)
  // At once, not after painting: a key may be pressed as soon as something new is seen, and what is gone must not hear it.
  useLayoutEffect(() => {
    current.current = handlers
  }, [handlers])
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
      if (document.querySelector('[role=dialog]')) return
      // Enter on a button or link belongs to it.
      if (event.key === 'Enter' && event.target instanceof Element && event.target.closest('button, a')) return
      // A key that is held down acts once, so that nothing is confirmed unread; J and K walk on.
      if (event.repeat && !/^[jk]$/i.test(event.key)) return
      const handler = current.current[event.key] ?? current.current[event.key.toUpperCase()]
      if (!handler) return
      event.preventDefault()
      handler()
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])
}

const keyList: readonly (readonly [string, string])[] = [
  ['Ctrl K', 'find'],
  ['1 to 6', 'Line-up, First contact, Terms, Data path, Proof, Hand-over'],
  ['7', 'Bench'],
  ['J K', 'next, previous line or handshake'],
  ['Enter', 'open, edit'],
  ['F2', 'edit a value in place'],
  ['Escape', 'leave it as it was'],
  ['O', 'next at odds'],
  ['F', 'to the fix (never fires it)'],
  ['A', 'add a device'],
  ['P', 'paste devices from a spreadsheet'],
  ['Arrows', 'from cell to cell in the table'],
  ['Shift ↑ ↓', 'choose several rows'],
  ['Ctrl D', 'fill down the chosen rows'],
  ['Ctrl C, Ctrl V', 'copy and paste cells'],
  ['/', 'filter the table'],
  ['Ctrl Z, Ctrl Y', 'undo, redo in Line-up'],
  ['H', 'hold the device side, let it go'],
  ['Y, N', 'I see it, I don’t'],
  ['C', 'copy what is to be typed'],
  ['E, I', 'a term is entered, is in force, as planned'],
  ['=', 'a term as the other end says; a cell as planned'],
  ['R', 'record'],
  ['L', 'look at the registers, in Data path'],
  ['P', 'park, in First contact'],
  ['M', 'while something waits: what may be done meanwhile'],
  ['B', 'back to what rang'],
  ['?', 'this list'],
]

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog title="Keys" say="On the plant no single key writes to a device." open={open} onClose={onClose}>
      <dl className="mt-3.5 grid grid-cols-[auto_1fr] gap-x-4.5 gap-y-1.75">
        {keyList.map(([key, what]) => (
          <div key={`${key} ${what}`} className="contents">
            <dt className="font-typed font-heavy">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  )
}
