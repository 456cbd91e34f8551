import { nameKey, valueKey, type Picture } from '../procedure'
import { agrees, differs, judged, notKnown, type CheckResult, type Look } from './model'

const computed = { how: 'computed' } as const

/** When a before-picture counts, ms since 1970. */
export interface BeforeWhen {
  readonly now: number
  /** When the first thing was changed in this stop; `undefined` while nothing was. */
  readonly changedAt: number | undefined
}

/** A picture older than a day shows another plant. @source common practice, no source */
const OLDEST_MS = 24 * 60 * 60 * 1000

/** Why a before-picture does not count; `undefined` where it does. */
function tooOldOrLate({ at }: Picture, { now, changedAt }: BeforeWhen): string | undefined {
  if (changedAt !== undefined && at >= changedAt)
    return 'The before-picture was taken after the first change: it does not show how things were before.'
  return (changedAt ?? now) - at > OLDEST_MS
    ? 'The before-picture is more than a day old: take one of how things run now.'
    : undefined
}

/** What runs now is written down: whom the picture shows, and who is not in it. */
export function judgeBefore(before: Picture | undefined, tags: readonly string[], when: BeforeWhen): CheckResult {
  if (!before) return judged([], { ...computed, needs: 'one', nothing: 'No before-picture is kept yet.' })
  const old = tooOldOrLate(before, when)
  if (old !== undefined) return judged([notKnown(old)], { ...computed, needs: 'all' })
  const shown = new Map(before.devices.map((device) => [device.tag, device]))
  const looks = tags.map((tag): Look => {
    const device = shown.get(tag)
    if (!device) return notKnown(`${tag} is not in it: no address is known for it.`)
    if (device.answers === null) return notKnown(`${tag} was not looked at: the laptop was in no subnet of it.`)
    return device.answers ? agrees('') : notKnown(`${tag} was silent.`)
  })
  const listed = (before.fieldDevices ?? []).map(() => agrees(''))
  const good =
    listed.length > 0
      ? `The before-picture is kept, with ${listed.length} field devices as listed.`
      : 'The before-picture is kept.'
  return judged([...looks, ...listed], { ...computed, needs: 'one', good })
}

/**
 * Every device and field device of the before-picture is back, and says what it said.
 * @param behind what hangs behind the unit that was away: with a list of field devices only these and the list count,
 * without one everything that was pictured
 * @param changed when the first and the last thing was changed in this stop, ms since 1970: the picture before has to be
 *   from before the first, the one afterwards from after the last; `undefined` while nothing was changed
 */
export function judgeReturned(
  before: Picture | undefined,
  after: Picture | undefined,
  behind: readonly string[] = [],
  changed?: { readonly first: number; readonly last: number },
): CheckResult {
  if (!before || !after || after.at <= before.at)
    return judged([], { ...computed, needs: 'all', nothing: 'A before-picture and one afterwards are needed.' })
  if (!changed)
    return judged([notKnown('Nothing of this stop was done yet: there is nothing to be back from.')], {
      ...computed,
      needs: 'all',
    })
  const old = tooOldOrLate(before, { now: after.at, changedAt: changed.first })
  if (old !== undefined) return judged([notKnown(old)], { ...computed, needs: 'all' })
  if (after.at <= changed.last)
    return judged([notKnown('The picture afterwards is from before the last change: take one now.')], {
      ...computed,
      needs: 'all',
    })
  const now = new Map(after.devices.map((device) => [device.tag, device]))
  const scope = before.fieldDevices ? new Set(behind) : undefined
  const pictured = before.devices.filter(({ tag }) => scope === undefined || scope.has(tag))
  const looks = pictured.flatMap((was): readonly Look[] => {
    // Who was silent or unseen before cannot be back.
    if (!was.answers) return []
    const is = now.get(was.tag)
    if (!is || is.answers === null) return [notKnown(`${was.tag} was not looked at afterwards.`)]
    if (!is.answers) return [differs(`Not back: ${was.tag}.`)]
    if (was.identity !== is.identity) return [differs(`${was.tag} says "${is.identity}", said "${was.identity}".`)]
    return [agrees('')]
  })
  const listed = [...fieldLooks(before, after), ...valueLooks(before, after, scope)]
  const silent = pictured.filter(({ answers }) => !answers).map(({ tag }) => tag)
  const result = judged([...looks, ...listed], {
    ...computed,
    needs: 'all',
    good: 'Everything that answered before is back.',
    nothing: 'Nothing answered in the before-picture: there is nothing that could be back.',
  })
  return silent.length === 0 ? result : { ...result, say: `${result.say} Not seen before: ${silent.join(', ')}.` }
}

/** A value that was there is there: how far it moved meanwhile is said by the comparison, and is no fault. */
function valueLooks(before: Picture, after: Picture, scope: ReadonlySet<string> | undefined): readonly Look[] {
  const now = new Map((after.values ?? []).map((value) => [valueKey(value), value]))
  return (before.values ?? [])
    .filter(({ value, device }) => value !== null && (scope === undefined || scope.has(device)))
    .map((was): Look => {
      const is = now.get(valueKey(was))
      const what = `${was.device}, ${was.point}`
      if (!is || is.unasked) return notKnown(`${what} was not read afterwards.`)
      return is.value === null ? differs(`${what} was ${was.text} and gives no value now: ${is.text}`) : agrees('')
    })
}

function fieldLooks(before: Picture, after: Picture): readonly Look[] {
  const was = before.fieldDevices ?? []
  if (was.length === 0) return []
  if (!after.fieldDevices) return [notKnown('The list of field devices was not taken again.')]
  const now = new Map(after.fieldDevices.map((each) => [nameKey(each.name), each]))
  return was.map(({ name, fault }): Look => {
    const is = now.get(nameKey(name))
    if (!is) return differs(`Gone: ${name}.`)
    return is.fault && !fault ? differs(`At fault now: ${name}.`) : agrees('')
  })
}
