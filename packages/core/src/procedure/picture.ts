import { compareReading, type Tolerance } from '../values'

/** A field device behind a unit, as another screen lists it. */
export interface FieldDevice {
  readonly name: string
  readonly status: string
  /** Whether its status tells of a fault. */
  readonly fault: boolean
}

/** A planned value as the device gave it at that moment. */
export interface PicturedValue {
  /** Tag of the device. */
  readonly device: string
  /** Tag of the value in the controller. */
  readonly point: string
  /** `null` where there was no value. */
  readonly value: number | null
  /** As it is shown, with its unit; where there was none, why. */
  readonly text: string
  /** Nobody asked: the laptop could not see the device, or time was over. */
  readonly unasked?: true
  /** How far two readings may be apart and still be the same. */
  readonly tolerance: Tolerance
}

/** What one look at everything that runs shows: a before-picture or the picture afterwards. */
export interface Picture {
  readonly at: number
  /** `answers` is `null` where nobody looked: the laptop was in no subnet of it. */
  readonly devices: readonly { readonly tag: string; readonly answers: boolean | null; readonly identity: string }[]
  /** Alarms and key values as somebody wrote them down. */
  readonly notes: readonly string[]
  /** Field devices as another screen lists them; left out where no list was taken. */
  readonly fieldDevices?: readonly FieldDevice[]
  /** Planned values, as far as they could be read; left out in pictures of before they were read. */
  readonly values?: readonly PicturedValue[]
}

export interface PictureDifference {
  readonly tag: string
  /** What is to be said beside the tag; of what was not seen, before the tags. */
  readonly say: string
  /** A fault that was there before is told apart from a new one. */
  readonly kind: 'new-fault' | 'old-fault' | 'better' | 'changed' | 'added' | 'not-seen'
}

/** Words by which lists say that nothing is wrong. @source common practice, no source */
const FINE = /^(ok|okay|online|on ?line|normal|running|run|up|good|alive|ready|active|communicating|0)$/i

/** Whether a status of another screen says that nothing is wrong; one that nobody knows does not. */
export const isFine = (status: string): boolean => FINE.test(status.trim())

/** What stands in one line of a list, between tabs, semicolons, commas or several blanks. */
export const cellsOf = (line: string): readonly string[] =>
  line
    .split(/\t|;|,|\s{2,}/)
    .map((cell) => cell.trim())
    .filter((cell) => cell !== '')

/** One line of a list: a name and what its status is, with a tab, semicolon, comma or several blanks between them. */
function readLine(line: string): FieldDevice | undefined {
  const [name = '', ...rest] = cellsOf(line)
  if (name === '') return undefined
  const status = rest.join(' ')
  return { name, status, fault: status !== '' && !isFine(status) }
}

/**
 * Reads a list of field devices as it was pasted from another screen.
 * @returns the devices in their order, and the lines that name one a second time
 */
export function readFieldList(text: string): {
  readonly devices: readonly FieldDevice[]
  readonly twice: readonly string[]
} {
  const devices: FieldDevice[] = []
  const twice: string[] = []
  const seen = new Set<string>()
  for (const line of text.split(/\r?\n/)) {
    const device = readLine(line)
    if (!device) continue
    const key = nameKey(device.name)
    if (seen.has(key)) twice.push(device.name)
    else devices.push(device)
    seen.add(key)
  }
  return { devices, twice }
}

/** Names as they are compared: a list from another screen writes them with other blanks and letters. */
export const nameKey = (name: string): string => name.toLowerCase().replace(/[\s_-]+/g, '')

/** What two pictures say together. */
export interface PictureComparison {
  /** What is different, and what could not be compared; everything else that was compared is as it was. */
  readonly differences: readonly PictureDifference[]
  /** How many of `of` were looked at both times: devices that answered or not, listed field devices, planned values. */
  readonly compared: number
  readonly of: number
}

/** Values of one name at one device are one value. */
export const valueKey = ({ device, point }: PicturedValue): string => `${device} ${point}`

/** Compares what runs now with what ran before. Notes are read by people, and are not compared. */
export function comparePictures(before: Picture, after: Picture): PictureComparison {
  const differences = [
    ...deviceDifferences(before, after),
    ...fieldDifferences(before.fieldDevices ?? [], after.fieldDevices),
    ...valueDifferences(before.values ?? [], after.values ?? []),
  ]
  const all = new Set([
    ...[...before.devices, ...after.devices].map(({ tag }) => `device ${tag}`),
    ...[...(before.fieldDevices ?? []), ...(after.fieldDevices ?? [])].map(({ name }) => `listed ${nameKey(name)}`),
    ...[...(before.values ?? []), ...(after.values ?? [])].map((value) => `value ${valueKey(value)}`),
  ])
  const unseen = differences.filter(({ kind }) => kind === 'not-seen' || kind === 'added').length
  return { differences, compared: all.size - unseen, of: all.size }
}

function deviceDifferences(before: Picture, after: Picture): readonly PictureDifference[] {
  const was = new Map(before.devices.map((device) => [device.tag, device]))
  const is = new Map(after.devices.map((device) => [device.tag, device]))
  const missing = before.devices
    .filter(({ tag }) => !is.has(tag))
    .map(({ tag }): PictureDifference => ({ tag, kind: 'not-seen', say: 'Not looked at afterwards:' }))
  const seen = after.devices.flatMap((now): PictureDifference[] => {
    const then = was.get(now.tag)
    if (!then) return [{ tag: now.tag, kind: 'added', say: 'Not in the before-picture.' }]
    if (then.answers === null) return [{ tag: now.tag, kind: 'not-seen', say: 'Not looked at before:' }]
    if (now.answers === null) return [{ tag: now.tag, kind: 'not-seen', say: 'Not looked at afterwards:' }]
    if (then.answers && !now.answers)
      return [{ tag: now.tag, kind: 'new-fault', say: 'Answered before, is silent now.' }]
    if (!then.answers && !now.answers) return [{ tag: now.tag, kind: 'old-fault', say: 'Was silent before.' }]
    if (!then.answers) return [{ tag: now.tag, kind: 'better', say: 'Was silent before, answers now.' }]
    if (then.identity !== now.identity)
      return [{ tag: now.tag, kind: 'changed', say: `Says "${now.identity}", said "${then.identity}".` }]
    return []
  })
  return [...missing, ...seen]
}

function fieldDifferences(
  before: readonly FieldDevice[],
  after: readonly FieldDevice[] | undefined,
): readonly PictureDifference[] {
  if (!after)
    return before.map(({ name }): PictureDifference => ({
      tag: name,
      kind: 'not-seen',
      say: 'Not in a list afterwards, none was taken:',
    }))
  const was = new Map(before.map((each) => [nameKey(each.name), each]))
  const is = new Set(after.map(({ name }) => nameKey(name)))
  const gone = before
    .filter(({ name }) => !is.has(nameKey(name)))
    .map(({ name }): PictureDifference => ({ tag: name, kind: 'new-fault', say: 'Gone.' }))
  const now = after.flatMap(({ name, status, fault }): PictureDifference[] => {
    const then = was.get(nameKey(name))
    if (!then) return [{ tag: name, kind: 'added', say: 'Not in the list before.' }]
    if (fault && then.fault) return [{ tag: name, kind: 'old-fault', say: `At fault before too: ${status}.` }]
    if (fault) return [{ tag: name, kind: 'new-fault', say: `At fault now: ${status}.` }]
    return then.fault ? [{ tag: name, kind: 'better', say: `Was at fault: ${then.status}.` }] : []
  })
  return [...gone, ...now]
}

/** A value that is gone is a fault; one that is another by more than its tolerance is said, as a plant moves by itself. */
function valueDifferences(
  before: readonly PicturedValue[],
  after: readonly PicturedValue[],
): readonly PictureDifference[] {
  const is = new Map(after.map((value) => [valueKey(value), value]))
  const was = new Set(before.map(valueKey))
  const seen = before.flatMap((then): readonly PictureDifference[] => {
    const tag = `${then.device}, ${then.point}`
    const now = is.get(valueKey(then))
    if (then.unasked) return [{ tag, kind: 'not-seen', say: 'Not read before:' }]
    if (!now || now.unasked) return [{ tag, kind: 'not-seen', say: 'Not read afterwards:' }]
    if (then.value === null && now.value === null)
      return [{ tag, kind: 'old-fault', say: `No value before either: ${now.text}` }]
    if (now.value === null)
      return [{ tag, kind: 'new-fault', say: `Was ${then.text}, gives no value now: ${now.text}` }]
    if (then.value === null) return [{ tag, kind: 'better', say: `Gave no value before, is ${now.text} now.` }]
    return compareReading(now.value, then.value, then.tolerance).verdict === 'inside'
      ? []
      : [{ tag, kind: 'changed', say: `Is ${now.text}, was ${then.text}.` }]
  })
  const more = after.filter((value) => !was.has(valueKey(value)) && !value.unasked)
  return [
    ...seen,
    ...more.map((value): PictureDifference => ({
      tag: `${value.device}, ${value.point}`,
      kind: 'added',
      say: `Not in the before-picture; is ${value.text} now.`,
    })),
  ]
}
