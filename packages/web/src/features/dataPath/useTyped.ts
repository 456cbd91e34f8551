import { ok, parseWholeNumber, type Result } from '@calm/core/units'
import { useEffect, useRef, useState } from 'react'

type Texts<K extends string> = Readonly<Record<K, string>>

interface Typed<K extends string> {
  /** What stands in the fields: as typed, else as it is kept. */
  readonly texts: Texts<K>
  readonly type: (key: K, text: string) => void
  /** For the element around the fields: what was typed is kept when a field is left, and with Enter. */
  readonly leaving: {
    readonly onBlur: () => void
    readonly onKeyDown: (event: React.KeyboardEvent) => void
  }
}

/**
 * Fields of a panel whose values stand in the job. What is computed follows each key; what can be read is kept when its
 * field is left. What cannot, or what the server refused, stays on the screen as it was typed.
 * @param kept how the fields stand in the job
 * @param canBeRead whether the text of a field may be kept
 * @param keep sends what has changed; rejects where it was refused
 */
export function useTyped<K extends string>(
  kept: Texts<K>,
  canBeRead: (key: K, text: string) => boolean,
  keep: (changed: Partial<Record<K, string>>) => Promise<unknown>,
): Typed<K> {
  const [typed, setTyped] = useState<Partial<Record<K, string>>>({})
  /** What is on its way: Enter and leaving the field right after it are one change, with one step back. */
  const sending = useRef<Partial<Record<K, string>>>({})
  const leave = () => {
    const changed = Object.fromEntries(
      (Object.entries(typed) as [K, string][]).filter(([key, text]) => text !== kept[key] && canBeRead(key, text)),
    ) as Partial<Record<K, string>>
    // What is on its way goes along with what is new: fields that are kept in one piece would else put it back.
    if (Object.keys(without(changed, sending.current)).length === 0) return
    sending.current = { ...sending.current, ...changed }
    const settle = (done: boolean) => {
      sending.current = without(sending.current, changed)
      if (done) setTyped((now) => without(now, changed))
    }
    keep(changed).then(
      () => settle(true),
      () => settle(false),
    )
  }
  const latest = useRef(leave)
  useEffect(() => {
    latest.current = leave
  })
  // Whoever goes to another view by key has left the field too.
  useEffect(() => () => latest.current(), [])
  return {
    texts: { ...kept, ...typed },
    type: (key, text) => setTyped((now) => ({ ...now, [key]: text })),
    leaving: {
      onBlur: leave,
      onKeyDown: (event) => {
        if (event.key === 'Enter' && (event.target as HTMLElement).tagName === 'INPUT') leave()
      },
    },
  }
}

/** Fields without those that still hold what was sent of them. */
const without = <K extends string>(texts: Partial<Record<K, string>>, sent: Partial<Record<K, string>>) =>
  Object.fromEntries(Object.entries(texts).filter(([key, text]) => sent[key as K] !== text)) as typeof texts

/** A number as it stands in a field; blank where it is not known. */
export const numberText = (value: number | null): string => (value === null ? '' : String(value))

/** A whole number, or nothing where the field is blank. */
export const readOpen = (text: string, name: string, min: number, max: number): Result<number | null> =>
  text.trim() === '' ? ok(null) : parseWholeNumber(text, { name, min, max })
