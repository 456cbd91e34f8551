import { useEffect } from 'react'
import { isTyping } from '../ui'

/** Ctrl Z takes back the last change, Ctrl Y or Ctrl Shift Z brings it back; in an open field they belong to the field. */
export function useUndoKeys(undo: () => void, redo: () => void): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || isTyping(event.target)) return
      if (document.querySelector('[role=dialog]')) return
      const key = event.key.toLowerCase()
      if (key !== 'z' && key !== 'y') return
      event.preventDefault()
      if (key === 'y' || event.shiftKey) redo()
      else undo()
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  })
}
