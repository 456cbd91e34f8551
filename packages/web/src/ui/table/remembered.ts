import { createContext, useContext, useState } from 'react'

/** Who looks at the page: what is remembered of it belongs to them, on a laptop that several share. */
export const Person = createContext('')

/** How somebody has set up the columns of one table. Widths in px. */
interface ColumnLayout {
  readonly widths: Readonly<Record<string, number>>
  readonly shown: Readonly<Record<string, boolean>>
}
const asMade: ColumnLayout = { widths: {}, shown: {} }

const recordOf = <Value>(value: unknown, fits: (each: unknown) => each is Value): Record<string, Value> =>
  typeof value === 'object' && value !== null
    ? Object.fromEntries(Object.entries(value).filter((entry): entry is [string, Value] => fits(entry[1])))
    : {}

/** Reads what was remembered; what is not a layout is as if nothing had been. */
export function readLayout(text: string | null): ColumnLayout {
  try {
    const stored = JSON.parse(text ?? '{}') as { widths?: unknown; shown?: unknown }
    return {
      widths: recordOf(stored.widths, (each): each is number => typeof each === 'number' && each >= 20 && each < 2000),
      shown: recordOf(stored.shown, (each): each is boolean => typeof each === 'boolean'),
    }
  } catch {
    return asMade
  }
}

/** The layout of a table for the person at hand, kept in this browser. */
export function useRememberedLayout(name: string): readonly [ColumnLayout, (next: ColumnLayout) => void] {
  const key = `calm.table.${name}.${useContext(Person)}`
  const [held, setHeld] = useState<{ readonly key: string; readonly layout: ColumnLayout } | undefined>(undefined)
  const layout = held?.key === key ? held.layout : readLayout(read(key))
  const keep = (next: ColumnLayout) => {
    setHeld({ key, layout: next })
    try {
      localStorage.setItem(key, JSON.stringify(next))
    } catch {
      // A browser that keeps nothing does without.
    }
  }
  return [layout, keep]
}

function read(key: string): string | null {
  try {
    return localStorage.getItem(key)
  } catch {
    return null
  }
}
