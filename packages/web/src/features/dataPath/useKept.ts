import { useState } from 'react'

/**
 * State that is still there when somebody comes back to it, on this laptop: what was typed is not lost by looking at
 * something else. What cannot be read any more begins anew.
 */
export function useKept<T>(name: string, start: T): readonly [T, (next: T) => void] {
  const key = `calm.${name}`
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = localStorage.getItem(key)
      return kept === null ? start : (JSON.parse(kept) as T)
    } catch {
      return start
    }
  })
  return [
    value,
    (next) => {
      setValue(next)
      localStorage.setItem(key, JSON.stringify(next))
    },
  ]
}
