import { formatIpv4, ipv4, prefixLength } from '../address'
import { settingOf, type Device, type Job } from '../job'
import { sampleDevice, sampleJob } from '../job/fixtures'
import { waysOfSetting } from '../kind'
import { seeded } from '../sequence/fixtures/randomJob'
import {
  blankWalk,
  bringUpJobOf,
  groupOf,
  isGroupLive,
  LEAD_SETTING,
  planWalk,
  presentOf,
  usualSettings,
  walkOf,
  type Stop,
  type WalkRecord,
} from '.'

const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]
const drive = (tag: string, address: string | null, asFound: string, isolation: string, more: Partial<Device> = {}) =>
  sampleDevice(tag, address, { kind: 'remote-io', asFound, isolation, ...more })

function planned(job: Job, record: WalkRecord = blankWalk) {
  const given = bringUpJobOf(job, record, laptop)
  const plan = planWalk(given, [], [], 1)
  if (!('answer' in plan)) return undefined
  return { plan, stops: walkOf(job, record, plan.answer.actions, given) }
}

/** Three of one kind at one address behind one breaker and one cable: two of them are left out of the order. */
const three = sampleJob({
  devices: ['PD-101', 'PD-102', 'PD-103'].map((tag, k) => drive(tag, `10.20.40.2${k + 1}`, '192.168.1.20', 'Q14')),
})
const chained: WalkRecord = { ...blankWalk, settings: { ...usualSettings, groups: { Q14: { chained: true } } } }

describe('what is left out stays in the plant', () => {
  test('a breaker is not put on while a left-out device behind it would share an address with another', () => {
    const found = planned(three, chained)
    expect(found?.plan.leftOut.flatMap((each) => each.deviceIds)).toHaveLength(2)
    const on = found?.stops.find((stop) => stop.action?.kind === 'group-on')
    expect(on?.held).toMatchObject({
      why: expect.stringMatching(/^Q14 stays off: PD-10\d and PD-10\d would both be live at 192\.168\.1\.20/),
      leadsOf: expect.arrayContaining([expect.stringMatching(/PD-10/)]),
    })
    expect(on?.held?.help[0]).toMatch(/^Pull the network lead of PD-10\d/)
    // Nothing behind that breaker is set or verified either.
    const after = found?.stops.filter((stop) => stop.action?.kind === 'set' || stop.action?.kind === 'verify') ?? []
    expect(after.length).toBeGreaterThan(0)
    expect(after.every((stop) => stop.held)).toBe(true)
  })

  test('with the leads of the left-out ones pulled the walk goes on; plugged again it waits again', () => {
    const held = planned(three, chained)?.stops.find((stop) => stop.held)?.held
    const lead = (text: string, at: number) =>
      (held?.leadsOf ?? []).map((deviceId) => ({
        id: `${deviceId} ${at}`,
        deviceId,
        setting: LEAD_SETTING,
        standing: 'in-force' as const,
        text,
        how: 'seen' as const,
        who: 'R. Osei',
        at,
      }))
    const pulled = { ...chained, facts: lead('pulled', 1) }
    expect(planned(three, pulled)?.stops.some((stop) => stop.held)).toBe(false)
    const plugged = { ...chained, facts: [...lead('pulled', 1), ...lead('plugged', 2)] }
    expect(planned(three, plugged)?.stops.some((stop) => stop.held)).toBe(true)
  })

  test('a device that a person leaves out, or that has no planned address, counts the same', () => {
    const two = sampleJob({
      devices: [drive('A', '10.20.40.21', '192.168.1.20', 'Q1'), drive('B', '10.20.40.22', '192.168.1.20', 'Q1')],
    })
    const left = { ...blankWalk, settings: { ...usualSettings, leftOut: ['B'] } }
    expect(planned(two, left)?.stops.find((stop) => stop.action?.kind === 'group-on')?.held?.why).toMatch(
      /A and B would both be live at 192\.168\.1\.20, and B is not in the order/,
    )
    const unplanned = sampleJob({
      devices: [drive('A', '10.20.40.21', '192.168.1.20', 'Q1'), drive('B', null, '192.168.1.20', 'Q1')],
    })
    expect(planned(unplanned)?.stops.find((stop) => stop.action?.kind === 'group-on')?.held).not.toBeNull()
  })

  test('a device is not set onto the address of a live one that is left out', () => {
    const job = sampleJob({
      devices: [
        drive('A', '10.20.40.21', '192.168.1.20', 'Q1', { kind: 'meter' }),
        drive('OLD', null, '10.20.40.21', 'Q2', { kind: 'meter' }),
      ],
    })
    const live = { ...blankWalk, settings: { ...usualSettings, groups: { Q2: { live: true } } } }
    const found = planned(job, live)
    const held = found?.stops.filter((stop) => stop.held).map((stop) => stop.action?.kind)
    expect(held).toEqual(['set', 'verify'])
    expect(planned(job)?.stops.some((stop) => stop.held)).toBe(false)
  })

  test('a device that hangs behind nobody stands in the walk once, at its end', () => {
    const job = sampleJob({
      devices: [drive('A', '10.20.40.21', '192.168.1.20', 'Q1'), drive('B', null, 'unknown', 'Q2', { ports: [] })],
    })
    const keys = planned(job)?.stops.map((stop) => stop.key) ?? []
    expect(new Set(keys).size).toBe(keys.length)
    expect(keys.at(-1)).toBe('device B')
  })

  test('nothing waits where nothing is left out', () => {
    const job = sampleJob({
      devices: [drive('A', '10.20.40.21', '192.168.1.20', 'Q1'), drive('B', '10.20.40.22', '192.168.1.20', 'Q2')],
    })
    expect(planned(job)?.stops.some((stop) => stop.held)).toBe(false)
  })
})

/** A plant of a few devices on few addresses and breakers, some left out by hand, some without a plan. */
function randomPlant(seed: number): { readonly job: Job; readonly record: WalkRecord } {
  const random = seeded(seed)
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T
  const count = 2 + Math.floor(random() * 4)
  const kinds = ['remote-io', 'drive', 'meter', 'remote-io']
  const places = ['192.168.1.20', '192.168.1.20', '192.168.1.21', '10.20.40.31', '10.20.40.32']
  const devices = Array.from({ length: count }, (_, k) =>
    drive(`D${k}`, random() < 0.85 ? `10.20.40.3${k + 1}` : null, pick(places), pick(['Q1', 'Q2', 'Q3']), {
      kind: pick(kinds),
      effective: pick([null, null, 'power-cycle', 'at-once'] as const),
    }),
  )
  const groups = Object.fromEntries(
    ['Q1', 'Q2', 'Q3'].map((id) => [id, { chained: random() < 0.5, live: random() < 0.25 }]),
  )
  const leftOut = devices.filter(() => random() < 0.2).map((device) => device.id)
  return { job: sampleJob({ devices }), record: { ...blankWalk, settings: { ...usualSettings, groups, leftOut } } }
}

/**
 * Follows the stops that may be done on the whole plant, by a model of its own: who is live, who is on the switch, who
 * holds which address. Says every moment at which a device outside the order comes onto one address with another.
 */
function illegalMoments(job: Job, record: WalkRecord, stops: readonly Stop[]): readonly string[] {
  const wrong: string[] = []
  const done = stops.flatMap((stop) => (stop.held || !stop.action ? [] : [stop.action]))
  const walked = new Set(stops.flatMap(({ action }) => (action && 'deviceId' in action ? [action.deviceId] : [])))
  const on = new Set(job.devices.map(groupOf).filter((group) => isGroupLive(job, record, group)))
  const at = new Map(
    job.devices.flatMap((device) => {
      const present = presentOf(job, record, device)
      return present ? [[device.id, formatIpv4(present.address)] as const] : []
    }),
  )
  const waiting = new Map<string, string>()
  let cable = 'switch'
  const out = new Set<string>()
  const pairs = () => {
    const heard = job.devices.filter(
      (device) => on.has(groupOf(device)) && cable !== device.id && !out.has(device.id) && at.has(device.id),
    )
    return heard.flatMap((a) =>
      heard
        .filter((b) => a.id < b.id && at.get(a.id) === at.get(b.id) && !(walked.has(a.id) && walked.has(b.id)))
        .map((b) => `${a.id} and ${b.id}`),
    )
  }
  const isOverIp = (id: string) => {
    const device = job.devices.find((each) => each.id === id)
    return device !== undefined && waysOfSetting[settingOf(job, device).way].access === 'over-ip'
  }
  let before = pairs()
  for (const action of done) {
    if (action.kind === 'group-off') on.delete(action.groupId)
    if (action.kind === 'group-on') {
      on.add(action.groupId)
      for (const device of job.devices.filter((each) => groupOf(each) === action.groupId)) {
        const next = waiting.get(device.id)
        if (next) at.set(device.id, next)
        waiting.delete(device.id)
      }
    }
    if (action.kind === 'cable') {
      out.delete(cable)
      out.delete(action.into)
      cable = action.into
    }
    if (action.kind === 'lead-out') out.add(action.deviceId)
    if (action.kind === 'lead-in') out.delete(action.deviceId)
    if (action.kind === 'set') (action.pending ? waiting : at).set(action.deviceId, formatIpv4(action.to.address))
    const now = pairs()
    for (const pair of now) {
      if (!before.includes(pair)) wrong.push(`${action.kind} brings ${pair} together`)
      // At a keypad it is plain which of two is set; over the network it is not.
      const over = action.kind === 'set' && pair.split(' and ').includes(action.deviceId) && isOverIp(action.deviceId)
      if (over && before.includes(pair)) wrong.push(`set while ${pair} are on one address`)
    }
    before = now
  }
  return wrong
}

/** Fewer where each of 500 changes to the code is tried against it: by hand, `npm run mutate -- settle`. */
const WALKS = process.env.MUTATE ? 24 : 400

test('every walk, replayed on the whole plant, brings nothing left out onto one address with another', () => {
  let walks = 0
  let held = 0
  let leftOut = 0
  let leads = 0
  for (let seed = 1; seed <= WALKS; seed += 1) {
    const { job, record } = randomPlant(seed)
    const found = planned(job, record)
    if (!found) continue
    walks += 1
    if (found.plan.leftOut.length > 0 || record.settings.leftOut.length > 0) leftOut += 1
    if (found.stops.some((stop) => stop.held)) held += 1
    leads += found.stops.filter((stop) => stop.action?.kind === 'lead-out').length
    expect({ seed, wrong: illegalMoments(job, record, found.stops) }).toEqual({ seed, wrong: [] })
  }
  // The test must have seen what it is about.
  expect(walks).toBeGreaterThan(WALKS * 0.75)
  expect(leftOut).toBeGreaterThan(WALKS * 0.375)
  expect(held).toBeGreaterThan(WALKS * 0.1)
  expect(leads).toBeGreaterThan(WALKS * 0.02)
})
