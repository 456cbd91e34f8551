import type { Job } from '../../job'
import { wordsOf, type BringUpAction, type BringUpJob } from '../../sequence'
import type { WalkRecord } from '../record'
import { heldActions } from '../wholePlant'
import { countStops, stopsThroughRelays } from './behindStops'
import { actionKey, laptopHost } from './keys'
import { lastStops } from './lastStops'
import { makingOf, stopOf, type Making } from './making'
import type { Stop } from './model'
import { onDemandStops } from './onDemandStops'
import { powerStop } from './powerStop'
import { laptopSteps, setSteps } from './settingSteps'
import { unsaidStops } from './unsaidStop'
import { cableStep, findAgainStep, leadStep } from './steps'

/**
 * The walk: runs that were begun beside the order, then every action of the order with the steps of its devices' runs, then devices without an address of their
 * own. Keys of stops and steps stay when the order is planned again, so progress stays with them.
 */
export function walkOf(
  job: Job,
  record: WalkRecord,
  order: readonly BringUpAction[],
  given: BringUpJob,
): readonly Stop[] {
  const making = makingOf(job, record, given)
  const stops = withHeld(making, actionStops(making, order))
  const breakers = new Set(order.flatMap((action) => (action.kind === 'group-on' ? [action.groupId] : [])))
  const through = stopsThroughRelays(making, breakers)
  const placed = new Set<string>()
  // What is reached through a relay comes when the relay has just been found: the laptop is in its subnet then.
  const inOrder = stops.flatMap((stop) => {
    const relayId = stop.action?.kind === 'verify' ? stop.action.deviceId : ''
    // Devices that hang behind nobody come at the end, once.
    if (relayId === '' || !through.has(relayId)) return [stop]
    placed.add(relayId)
    const behind = [...(through.get(relayId) ?? []), ...countStops(making, [relayId])]
    return [stop, ...behind.map((each) => ({ ...each, held: stop.held ?? each.held }))]
  })
  const rest = [...through].filter(([relayId]) => !placed.has(relayId))
  const restIds = rest.map(([relayId]) => relayId)
  const begun = onDemandStops(making)
  // The order is not begun: what belongs to it is not begun either.
  if (order.length === 0 && begun.length > 0 && making.walked.size > 0) return begun
  const atTheEnd = rest.flatMap(([, list]) => list)
  return [
    ...begun,
    ...inOrder,
    ...atTheEnd,
    ...countStops(making, restIds),
    ...unsaidStops(making),
    ...lastStops(making),
  ]
}

/** A stop for each action of the order. */
function actionStops(making: Making, order: readonly BringUpAction[]): readonly Stop[] {
  const tags = new Map(making.job.devices.map((device) => [device.id, device.tag]))
  const words = wordsOf(making.given, order, (id) => tags.get(id) ?? id)
  const counts = new Map<string, number>()
  const hadPower = new Set<string>()
  return order.map((action, index) => {
    // What it is, whom it concerns, and the how-manieth of its like it is.
    const base = actionKey(action)
    const count = (counts.get(base) ?? 0) + 1
    counts.set(base, count)
    const { title, reason } = words[index] ?? { title: '', reason: '' }
    const parts = { key: `${base} ${count}`, title, reason }
    if (!('groupId' in action)) return actionStop(making, action, parts)
    const stop = powerStop(making, { ...parts, action, hadPower: hadPower.has(action.groupId) })
    if (action.kind === 'group-on') hadPower.add(action.groupId)
    return stop
  })
}

type Parts = Pick<Stop, 'key' | 'title' | 'reason'>

function actionStop(making: Making, action: Exclude<BringUpAction, { groupId: string }>, parts: Parts): Stop {
  const { job, given } = making
  const { key, title } = parts
  const byId = (id: string) => job.devices.filter((device) => device.id === id)
  switch (action.kind) {
    case 'laptop': {
      const laptop = laptopHost(given, action.into)
      const steps = laptopSteps(making, key, laptop)
      return stopOf({ ...parts, action, seconds: given.seconds.laptopChange, steps, laptop })
    }
    case 'cable': {
      const steps = [making.step(key, null, cableStep(title, action.into === 'switch'))]
      return stopOf({ ...parts, action, devices: byId(action.into), seconds: given.seconds.cableMove, steps })
    }
    case 'lead-out':
    case 'lead-in': {
      const devices = byId(action.deviceId)
      const steps = devices.map((device) => making.step(key, device, leadStep(device.tag, action.kind === 'lead-out')))
      return stopOf({ ...parts, action, devices, seconds: given.seconds.leadMove, steps })
    }
    case 'set': {
      const devices = byId(action.deviceId)
      const seconds = given.devices.find((device) => device.id === action.deviceId)?.handsOnSeconds ?? 0
      const steps = devices.flatMap((device) => setSteps(making, key, device, action))
      return stopOf({ ...parts, action, devices, seconds, steps })
    }
    case 'verify': {
      const devices = byId(action.deviceId)
      const steps = devices.flatMap((device) => {
        const own = making.deviceSteps(key, device, ['verify', 'after'])
        const looks = own.some(({ step }) => step.check === 'reached-planned')
        return looks ? own : [making.step(key, device, findAgainStep), ...own]
      })
      return stopOf({ ...parts, action, devices, steps })
    }
  }
}

/** What waits, because something that is not in the order stands in the plant. What is settled is over. */
function withHeld({ given }: Making, stops: readonly Stop[]): readonly Stop[] {
  const open = stops.filter((stop) => stop.state !== 'settled' && stop.action)
  const actions = open.flatMap((stop) => stop.action ?? [])
  const held = heldActions(given, actions)
  const byKey = new Map(open.map((stop, index) => [stop.key, held.get(index) ?? null]))
  return stops.map((stop) => ({ ...stop, held: byKey.get(stop.key) ?? null }))
}
