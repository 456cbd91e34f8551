import { formatIpv4, ipv4, prefixLength } from '../address'
import { settingOf, type Device, type Job } from '../job'
import { sampleDevice, sampleJob, samplePort } from '../job/fixtures'
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

/** Three of one kind at one address behind one breaker and one cable, and one at an address of its own. */
const three = sampleJob({
  devices: [
    ...['PD-101', 'PD-102', 'PD-103'].map((tag, k) => drive(tag, `10.20.40.2${k + 1}`, '192.168.1.20', 'Q14')),
    drive('RIO-1', '10.20.40.30', '192.168.1.77', 'Q15'),
  ],
})
const chained: WalkRecord = { ...blankWalk, settings: { ...usualSettings, groups: { Q14: { chained: true } } } }
const ids = (found: ReturnType<typeof planned>) => found?.plan.leftOut.map(({ deviceIds }) => deviceIds)

describe('what is left out stays in the plant', () => {
  test('those that one breaker and one cable bring onto one address are left out together, the rest is planned', () => {
    const found = planned(three, chained)
    expect(ids(found)).toEqual([['PD-101', 'PD-102', 'PD-103']])
    expect(found?.plan.leftOut[0]?.why).toBe(
      'PD-101, PD-102 and PD-103 have one address, one breaker (Q14) and one cable: none can be alone on it.',
    )
    expect(found?.stops.some((stop) => stop.held)).toBe(false)
    const actions = found?.plan.answer.actions ?? []
    expect(actions.some((action) => 'groupId' in action && action.groupId === 'Q14')).toBe(false)
    expect(actions.at(-1)).toEqual({ kind: 'verify', deviceId: 'RIO-1' })
  })

  test('sixty devices on shared breakers: one impossible pair is named, the others are planned', () => {
    const many = sampleJob({
      devices: Array.from({ length: 60 }, (_, k) =>
        drive(`D${k}`, `10.20.40.${20 + k}`, k < 2 ? '192.168.1.20' : `192.168.1.${100 + k}`, `Q${k >> 2}`),
      ),
    })
    const record = { ...blankWalk, settings: { ...usualSettings, groups: { Q0: { chained: true } } } }
    const found = planned(many, record)
    // Two more hang on their breaker: with the pair on one address it is not put on.
    expect(ids(found)).toEqual([['D0', 'D1'], ['D2'], ['D3']])
    expect(
      new Set(found?.plan.answer.actions.flatMap((each) => (each.kind === 'verify' ? [each.deviceId] : []))).size,
    ).toBe(56)
  })

  test('a device at the address of one that a person leaves out is set straight on the cable', () => {
    const two = sampleJob({
      devices: [drive('A', '10.20.40.21', '192.168.1.20', 'Q1'), drive('B', '10.20.40.22', '192.168.1.20', 'Q1')],
    })
    const left = { ...blankWalk, settings: { ...usualSettings, leftOut: ['B'] } }
    const found = planned(two, left)
    expect(found?.plan.answer.actions.map(({ kind }) => kind)).toContain('cable')
    expect(found?.stops.some((stop) => stop.held)).toBe(false)
    const together = { ...left, settings: { ...left.settings, groups: { Q1: { chained: true } } } }
    expect(ids(planned(two, together))).toEqual([['A']])
  })

  test('so is one beside a device that has no plan; where that has its planned address, it is left out', () => {
    const unplanned = sampleJob({
      devices: [drive('A', '10.20.40.21', '192.168.1.20', 'Q1'), drive('B', null, '192.168.1.20', 'Q1')],
    })
    expect(planned(unplanned)?.plan.answer.actions.map(({ kind }) => kind)).toContain('cable')
    const job = sampleJob({
      devices: [
        drive('A', '10.20.40.21', '192.168.1.20', 'Q1', { kind: 'meter' }),
        drive('OLD', null, '10.20.40.21', 'Q2', { kind: 'meter' }),
      ],
    })
    const live = { ...blankWalk, settings: { ...usualSettings, groups: { Q2: { live: true } } } }
    expect(planned(job, live)?.plan.leftOut).toEqual([
      {
        deviceIds: ['A'],
        why: 'OLD is not in the order and holds 10.20.40.21, the planned address of A.',
        help: ['Plan another address for A.', 'Pull the network lead of OLD, and say so here.'],
        leadsOf: ['OLD'],
      },
    ])
    // Without power it is in nobody's way, and its breaker is left alone.
    expect(planned(job)?.plan.leftOut).toEqual([])
    const pulled = {
      deviceId: 'OLD',
      setting: LEAD_SETTING,
      standing: 'in-force',
      text: 'pulled',
      how: 'seen',
    } as const
    const facts = [{ ...pulled, id: 'f', who: 'R. Osei', at: 1 }]
    expect(planned(job, { ...live, facts })?.plan.leftOut).toEqual([])
  })

  test('twelve on one factory address whose network is not said are not powered as if they had no address', () => {
    const unsaid = (tag: string, k: number) =>
      drive(tag, null, '', `Q${k}`, {
        kind: 'meter',
        ports: [samplePort(`10.20.40.${20 + k}`, { id: `p${k}`, networkId: null })],
      })
    const job = sampleJob({ devices: Array.from({ length: 12 }, (_, k) => unsaid(`D${k}`, k)) })
    const stops = planned(job)?.stops ?? []
    expect(stops.map(({ key }) => key)).toEqual(['network unsaid'])
    expect(stops[0]?.title).toBe('12 devices without a network')
    expect(stops[0]?.held?.why).toBe(
      'Which network D0 (10.20.40.20), D1 (10.20.40.21), D2 (10.20.40.22), D3 (10.20.40.23) and 8 more are in is not said: the mask to set is not known.',
    )
    expect(stops[0]?.state).not.toBe('settled')
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
  let served = 0
  let leftOut = 0
  let leads = 0
  for (let seed = 1; seed <= WALKS; seed += 1) {
    const { job, record } = randomPlant(seed)
    const found = planned(job, record)
    if (!found) continue
    walks += 1
    if (found.plan.leftOut.length > 0 || record.settings.leftOut.length > 0) leftOut += 1
    // What is left out is in the plan: no action of an order that was just made waits for it.
    expect({ seed, held: found.stops.flatMap((stop) => (stop.held && stop.action ? [stop.title] : [])) }).toEqual({
      seed,
      held: [],
    })
    served += found.plan.leftOut.length > 0 && found.plan.answer.actions.length > 0 ? 1 : 0
    leads += found.stops.filter((stop) => stop.action?.kind === 'lead-out').length
    expect({ seed, wrong: illegalMoments(job, record, found.stops) }).toEqual({ seed, wrong: [] })
  }
  // The test must have seen what it is about.
  expect(walks).toBeGreaterThan(WALKS * 0.75)
  expect(leftOut).toBeGreaterThan(WALKS * 0.375)
  expect(served).toBeGreaterThan(WALKS * 0.1)
  expect(leads).toBeGreaterThan(WALKS * 0.02)
})
