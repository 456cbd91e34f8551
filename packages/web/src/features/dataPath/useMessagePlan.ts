import type { Handshake, MessagePlan } from '@calm/core/job'
import { readLayout } from '@calm/core/message'
import { readLineSettings } from '@calm/core/serial'
import { ok, parseWholeNumber, type Result } from '@calm/core/units'
import { numberText, readOpen, useTyped } from './useTyped'
import type { JobEdit } from '../../edit'

/** Times and sizes that may not be known. */
export type TimeKey = 'pollMs' | 'deviceMs' | 'gapMs' | 'bufferBytes'
type NumberKey = TimeKey | 'headerBytes' | 'endBytes'
type Key = NumberKey | 'layout' | 'line'

/** Reads what is typed of a number; blank is not known, where that may be. */
export const readMessage: Readonly<Record<NumberKey, (text: string) => Result<number | null>>> = {
  headerBytes: (text) => parseWholeNumber(text, { name: 'Header', min: 0, max: 250 }),
  endBytes: (text) => parseWholeNumber(text, { name: 'End mark', min: 0, max: 250 }),
  pollMs: (text) => readOpen(text, 'Poll', 0, 60_000),
  deviceMs: (text) => readOpen(text, 'Time of the device', 0, 60_000),
  gapMs: (text) => readOpen(text, 'Gap', 0, 60_000),
  bufferBytes: (text) => readOpen(text, 'Buffer', 1, 65_536),
}
const numberKeys = Object.keys(readMessage) as NumberKey[]

const canBeRead = (key: Key, text: string): boolean => {
  if (key === 'layout') return text.trim() === '' || readLayout(text).ok
  if (key === 'line') return text.trim() === '' || readLineSettings(text).ok
  return readMessage[key](text).ok
}

/** How a device that is sent commands is talked to, as it is typed and as the job keeps it. */
export function useMessagePlan(handshake: Handshake, edit: JobEdit) {
  const plan = handshake.message
  const planned: Record<Key, string> = {
    ...(Object.fromEntries(numberKeys.map((key) => [key, numberText(plan[key])])) as Record<NumberKey, string>),
    layout: plan.layout,
    line: plan.line,
  }
  const keep = (say: string, fields: Partial<MessagePlan>) => {
    const sending = edit.set(say, 'handshake', handshake, { message: { ...plan, ...fields } })
    edit.attempt(sending)
    return sending
  }
  const typed = useTyped(planned, canBeRead, (changed) => {
    const now = { ...planned, ...changed }
    const numbers = Object.fromEntries(
      numberKeys.map((key) => {
        const read: Result<number | null> = canBeRead(key, now[key]) ? readMessage[key](now[key]) : ok(plan[key])
        return [key, read.ok ? read.value : plan[key]]
      }),
    )
    return keep('How messages are sent changed.', { ...numbers, layout: now.layout.trim(), line: now.line.trim() })
  })
  return { ...typed, keep: (say: string, fields: Partial<MessagePlan>) => void keep(say, fields) }
}

export type MessageTexts = ReturnType<typeof useMessagePlan>
