import { wireMs, type SerialSettings } from '../serial'

/** One poll of a command and answer device. */
export interface CommandPoll {
  readonly settings: SerialSettings
  readonly pollMs: number
  readonly requestBytes: number
  readonly answerBytes: number
  /** What the device takes to answer. */
  readonly deviceMs: number
  /** Silence by which the port ends a packet. */
  readonly gapMs: number
  /** What the port or the programme can take in one piece. */
  readonly bufferBytes: number | undefined
}

export interface PollVerdict {
  readonly requestMs: number
  readonly answerMs: number
  /** Silence that is left between the answer and the next request. */
  readonly leftMs: number
  /** What is wrong; none where it fits. */
  readonly troubles: readonly string[]
}

const ms = (value: number) => Number(value.toFixed(2))

/** Whether packets stay apart: poll - request - answer - device time has to be longer than the gap. */
export function judgePoll({
  settings,
  pollMs,
  requestBytes,
  answerBytes,
  deviceMs,
  gapMs,
  bufferBytes,
}: CommandPoll): PollVerdict {
  const [requestMs, answerMs] = [wireMs(settings, requestBytes), wireMs(settings, answerBytes)]
  const leftMs = pollMs - requestMs - answerMs - deviceMs
  const troubles: string[] = []
  if (leftMs <= gapMs)
    troubles.push(
      `${ms(leftMs)} ms of silence are left and a packet ends only after ${gapMs} ms: packets merge. Poll slower than every ${ms(requestMs + answerMs + deviceMs + gapMs)} ms.`,
    )
  if (bufferBytes !== undefined && answerBytes > bufferBytes)
    troubles.push(`The answer of ${answerBytes} bytes does not go into a buffer of ${bufferBytes}.`)
  return { requestMs, answerMs, leftMs, troubles }
}

/** Ports that more than one destination is set for: a port sends what arrives to one of them only. */
export function sharedPorts(
  entries: readonly { readonly port: string; readonly destination: string }[],
): readonly string[] {
  const destinations = new Map<string, Set<string>>()
  for (const { port, destination } of entries)
    destinations.set(port, (destinations.get(port) ?? new Set()).add(destination))
  return [...destinations].flatMap(([port, own]) => (own.size > 1 ? [port] : []))
}
