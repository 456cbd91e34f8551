import { useState } from 'react'

/**
 * State that is still there when somebody comes back to it, on this laptop: what was typed is not lost by looking at
 * something else. What cannot be read any more begins anew; a field that was not there when it was kept is as at first.
 */
export function useKept<T>(name: string, start: T): readonly [T, (next: T) => void] {
  const key = `calm.${name}`
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = localStorage.getItem(key)
      return kept === null ? start : withNewFields(start, JSON.parse(kept) as T)
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

const isRecord = (value: unknown): value is object =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

const withNewFields = <T>(start: T, kept: T): T =>
  isRecord(start) && isRecord(kept) ? ({ ...start, ...kept } as T) : kept
