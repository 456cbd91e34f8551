import type { DeviceColumnId } from '@calm/core/lineUp'

const KEY = 'calm.columns'
type Remembered = Readonly<Record<string, DeviceColumnId | ''>>

/** Which column a head was matched with before, in this browser. */
export function rememberedColumns(): Remembered {
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(KEY) ?? '{}')
    return typeof stored === 'object' && stored !== null ? (stored as Remembered) : {}
  } catch {
    return {}
  }
}

export function rememberColumns(match: Remembered): void {
  try {
    localStorage.setItem(KEY, JSON.stringify({ ...rememberedColumns(), ...match }))
  } catch {
    // A browser that keeps nothing does without.
  }
}
