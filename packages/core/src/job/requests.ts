import type { AskedOfOthers, Job } from './model'

/** Where a request stands. */
export type RequestState = 'not-asked' | 'asked' | 'late' | 'answered'

export const requestStateWords: Readonly<Record<RequestState, string>> = {
  'not-asked': 'not asked yet',
  asked: 'asked',
  late: 'late',
  answered: 'answered',
}

/** @param today as `2026-11-25`; a request is late from the day after it was due */
export function requestState(request: AskedOfOthers, today: string): RequestState {
  if (request.answeredOn !== null) return 'answered'
  if (request.askedOn === null) return 'not-asked'
  return request.dueOn !== null && request.dueOn < today ? 'late' : 'asked'
}

/** Requests that a device still waits for. */
export function waitsFor(job: Job, deviceId: string): readonly AskedOfOthers[] {
  return job.requests.filter((each) => each.answeredOn === null && each.deviceIds.includes(deviceId))
}

/** A pasted answer, shared out: lines that begin with the tag of a device, and the rest. */
export interface SharedAnswer {
  readonly perDevice: readonly { readonly deviceId: string; readonly tag: string; readonly text: string }[]
  readonly rest: readonly string[]
}

/**
 * Reads an answer line by line. A line that begins with a tag of the request belongs to that device; what separates
 * them may be a colon, a tab, a comma, a semicolon, an equals sign or spaces.
 */
export function shareAnswer(job: Job, request: AskedOfOthers, answer: string): SharedAnswer {
  const devices = job.devices
    .filter((device) => request.deviceIds.includes(device.id))
    .sort((a, b) => b.tag.length - a.tag.length)
  const perDevice: { deviceId: string; tag: string; text: string }[] = []
  const rest: string[] = []
  for (const raw of answer.split(/\r?\n/)) {
    const line = raw.trim()
    if (line === '') continue
    const device = devices.find(
      (each) =>
        line.toLowerCase().startsWith(each.tag.toLowerCase()) && /^([\s:;,=\t]|$)/.test(line.slice(each.tag.length)),
    )
    if (device)
      perDevice.push({
        deviceId: device.id,
        tag: device.tag,
        text: line.slice(device.tag.length).replace(/^[\s:;,=]+/, ''),
      })
    else rest.push(line)
  }
  return { perDevice, rest }
}
