import { formatIpv4, subnetOf } from '../../address'
import { bringUp } from '../bringUp'
import { powerJob, randomJob } from '../fixtures'
import type { BringUpAction, BringUpJob, HostAddress } from '../model'
import { wordsOf } from './reasons'

/** The plant as plain facts, apart from the planner. */
interface Plant {
  readonly at: Map<string, HostAddress | null>
  readonly waits: Map<string, HostAddress | null>
  readonly on: Set<string>
  readonly out: Set<string>
  readonly cable: string
}

const groupOf = (job: BringUpJob, id: string) => job.devices.find((device) => device.id === id)?.groupId ?? ''
const text = (of: HostAddress | null | undefined) => (of ? formatIpv4(of.address) : '')
const subnetIn = (of: HostAddress | null | undefined) =>
  of ? `${subnetOf(of.address, of.prefix).base}/${of.prefix}` : ''

/** How the plant stands before each action, and after the last. */
function standings(job: BringUpJob, actions: readonly BringUpAction[]): readonly Plant[] {
  const live = (id: string) => job.groups.find((group) => group.id === groupOf(job, id))?.live ?? false
  let now: Plant = {
    at: new Map(job.devices.map((d) => [d.id, d.access === 'lease' && !live(d.id) ? d.target : d.present])),
    waits: new Map(job.devices.map((d) => [d.id, d.access === 'lease' && live(d.id) ? d.target : null])),
    on: new Set(job.groups.filter((group) => group.live).map((group) => group.id)),
    out: new Set(job.devices.filter((device) => device.leadPulled).map((device) => device.id)),
    cable: 'switch',
  }
  const all = [now]
  for (const action of actions) {
    const next: Plant = {
      at: new Map(now.at),
      waits: new Map(now.waits),
      on: new Set(now.on),
      out: new Set(now.out),
      cable: action.kind === 'cable' ? action.into : now.cable,
    }
    if (action.kind === 'group-off') next.on.delete(action.groupId)
    if (action.kind === 'group-on') {
      next.on.add(action.groupId)
      for (const { id } of job.devices.filter((device) => device.groupId === action.groupId)) {
        next.at.set(id, next.waits.get(id) ?? next.at.get(id) ?? null)
        next.waits.set(id, null)
      }
    }
    if (action.kind === 'set') (action.pending ? next.waits : next.at).set(action.deviceId, action.to)
    if (action.kind === 'lead-out') next.out.add(action.deviceId)
    if (action.kind === 'lead-in') next.out.delete(action.deviceId)
    if (action.kind === 'cable') for (const id of [now.cable, action.into]) next.out.delete(id)
    all.push((now = next))
  }
  return all
}

const heard = (job: BringUpJob, plant: Plant, id: string) =>
  plant.on.has(groupOf(job, id)) && !plant.out.has(id) && plant.cable !== id
const comesUp = (plant: Plant, id: string) => text(plant.waits.get(id) ?? plant.at.get(id))
const names = (of: string) => of.split(/, | and /)

/** What a reason claims, by its words, and whether that is so. */
type Claim = (job: BringUpJob, actions: readonly BringUpAction[], plants: readonly Plant[], index: number) => boolean

function claimsOf(reason: string): readonly Claim[] {
  const claims: Claim[] = []
  const when = (pattern: RegExp, claim: (found: readonly string[]) => Claim) => {
    const found = pattern.exec(reason)
    if (found) claims.push(claim(found.slice(1)))
  }
  when(
    /^(.+) stays? unpowered: (?:it|they) ha(?:s|ve) the same address as (\S+), (\S+)\.$/,
    ([off = '', device = '', address]) =>
      (job, _, plants, index) =>
        names(off).every(
          (id) => !plants[index]?.on.has(groupOf(job, id)) && comesUp(plants[index] as Plant, id) === address,
        ) && comesUp(plants[index] as Plant, device) === address,
  )
  when(/obody else on the switch has (?:its address|their addresses) now\.$/, () => (job, actions, plants, index) => {
    const action = actions[index] as BringUpAction
    const after = plants[index + 1] as Plant
    const comes = job.devices.filter(({ id, groupId }) =>
      'deviceId' in action ? id === action.deviceId : 'groupId' in action && groupId === action.groupId,
    )
    return comes.every(
      ({ id }) =>
        !heard(job, after, id) ||
        text(after.at.get(id)) === '' ||
        job.devices.every(
          (other) =>
            other.id === id || !heard(job, after, other.id) || text(after.at.get(other.id)) !== text(after.at.get(id)),
        ),
    )
  })
  when(
    /^(\S+) has left (\S+), so (\S+) may have it now\.$/,
    ([moved = '', address, device = '']) =>
      (_job, _, plants, index) =>
        text(plants[0]?.at.get(moved)) === address &&
        text(plants[index]?.at.get(moved)) !== address &&
        comesUp(plants[index] as Plant, device) === address,
  )
  when(/^A spare address: (\S+) still holds its planned one\.$/, ([holder = '']) => (job, actions, plants, index) => {
    const action = actions[index] as Extract<BringUpAction, { kind: 'set' }>
    const wanted = text(job.devices.find((device) => device.id === action.deviceId)?.target)
    return heard(job, plants[index] as Plant, holder) && text(plants[index]?.at.get(holder)) === wanted
  })
  when(
    /^(?:A spare address: )?(\S+) needs (?:the one it has|its address for a while)\.$/,
    ([other = '']) =>
      (job, actions, plants, index) => {
        const action = actions[index] as BringUpAction
        const gives = job.devices
          .filter(({ id, groupId }) =>
            'deviceId' in action ? id === action.deviceId : 'groupId' in action && groupId === action.groupId,
          )
          .map(({ id }) => text(plants[index]?.at.get(id)))
        return plants
          .slice(index + 1)
          .some((plant) => heard(job, plant, other) && gives.includes(text(plant.at.get(other))))
      },
  )
  when(/^(\S+) is live at the same address\.$/, ([twin = '']) => (job, actions, plants, index) => {
    const action = actions[index] as Extract<BringUpAction, { groupId: string }>
    return (
      job.devices.some(
        ({ id, groupId }) =>
          groupId === action.groupId &&
          id !== twin &&
          text(plants[index]?.at.get(id)) === text(plants[index]?.at.get(twin)),
      ) && heard(job, plants[index] as Plant, twin)
    )
  })
  for (const [kind, pattern] of [
    ['set', /^(.+?) (?:is|are) set there/],
    ['verify', /(?:^|, )([^,]+(?:, [^,]+)*?) (?:is|are) found again there\.$/],
  ] as const)
    when(pattern, ([list = '']) => (_job, actions, plants, index) => {
      const laptop = actions[index] as Extract<BringUpAction, { kind: 'laptop' }>
      const left = actions.findIndex(
        (each, at) => at > index && each.kind === 'laptop' && subnetIn(each.leaves) === subnetIn(laptop.into),
      )
      const here = actions.map((each, at) => ({ each, at })).slice(index + 1, left < 0 ? undefined : left)
      const said = list.replace(/^.* set there, /, '')
      return (
        /^\d+ devices$/.test(said) ||
        names(said).every((id) =>
          here.some(
            ({ each, at }) =>
              each.kind === kind && each.deviceId === id && subnetIn(plants[at]?.at.get(id)) === subnetIn(laptop.into),
          ),
        )
      )
    })
  return claims
}

test('what a reason says is so: random jobs, replayed on plain facts', () => {
  let checked = 0
  const untrue: unknown[] = []
  const kinds = new Set<string>()
  for (let seed = 1; seed <= 240; seed += 1) {
    const job = seed % 2 ? randomJob(seed, 4, 4) : powerJob(seed, 4)
    const answer = bringUp(job, { states: 1_000 })
    if (answer.kind !== 'order') continue
    const plants = standings(job, answer.actions)
    wordsOf(job, answer.actions, (id) => id).forEach(({ reason }, index) => {
      for (const claim of claimsOf(reason)) {
        checked += 1
        kinds.add(reason.replace(/D\d|Q\d|\d+\.\d+\.\d+\.\d+/g, '_'))
        if (!claim(job, answer.actions, plants, index)) untrue.push({ seed, index, reason })
      }
    })
  }
  expect(untrue).toEqual([])
  expect(checked).toBeGreaterThan(400)
  expect(kinds.size).toBeGreaterThan(12)
})
