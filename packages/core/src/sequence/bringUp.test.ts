import { bringUp } from './bringUp'
import type { BringUpAction, BringUpCost, BringUpJob } from './model'
import { exhaustiveBringUp } from './fixtures/exhaustive'
import { jobOf, largeBringUp } from './fixtures/jobs'
import { randomJob } from './fixtures/randomJob'
import { replayed } from './fixtures/replay'
import { reducedTo, wordsOf } from './explain'

const measuresOf = (job: BringUpJob, cost: BringUpCost): readonly number[] =>
  job.preference === 'seconds'
    ? [cost.seconds, cost.laptopChanges, cost.powerActions, cost.settings]
    : [cost.laptopChanges, cost.powerActions, cost.settings, cost.seconds]

const orderOf = (job: BringUpJob) => {
  const answer = bringUp(job)
  if (answer.kind !== 'order') throw new Error(`No order: ${JSON.stringify(answer)}`)
  return answer
}

const brief = (actions: readonly BringUpAction[]): readonly string[] =>
  actions.map((action) => {
    if (action.kind === 'set') return `${action.parking ? 'park' : 'set'} ${action.deviceId}`
    if (action.kind === 'verify') return `verify ${action.deviceId}`
    if (action.kind === 'cable') return `cable ${action.into}`
    if (action.kind === 'laptop') return 'laptop'
    return `${action.kind} ${'groupId' in action ? action.groupId : action.deviceId}`
  })

describe('the order of bring-up against every possible order', () => {
  // Beside the exhaustive search of fixtures/exhaustive.ts, which knows nothing of the planner: clashes, shared groups,
  // chains, swaps, parking, leases, k = 1 and 2, must-stay-live, both preferences, each in random mixtures.
  it.each([
    [2, 150, 400_000],
    [3, 24, 12_000],
  ])('costs exactly as little for random jobs of %i devices', (count, jobs, most) => {
    const seen = { possible: 0, impossible: 0, tooMany: 0 }
    for (let seed = 1; seed <= jobs; seed += 1) {
      const job = randomJob(seed * 10 + count, count)
      const answer = bringUp(job)
      let all: ReturnType<typeof exhaustiveBringUp>
      try {
        all = exhaustiveBringUp(job, most)
      } catch {
        seen.tooMany += 1
        continue
      }
      seen[all ? 'possible' : 'impossible'] += 1
      const measures = answer.kind === 'order' && answer.proven ? measuresOf(job, answer.cost) : answer.kind
      expect({ seed, measures }).toEqual({ seed, measures: all?.measures ?? 'impossible' })
    }
    expect(seen.possible).toBeGreaterThan(jobs / 4)
    expect(seen.impossible).toBeGreaterThan(jobs / 20)
    expect(seen.tooMany).toBeLessThan(jobs / 3)
  })

  it('names a smallest set: the exhaustive search agrees that it cannot be done, and that all smaller parts can', () => {
    let named = 0
    for (let seed = 1; seed <= 40; seed += 1) {
      const job = randomJob(seed * 31, 2)
      const answer = bringUp(job)
      if (answer.kind !== 'impossible') continue
      named += 1
      const devices = job.devices.filter((device) => answer.deviceIds.includes(device.id))
      expect(exhaustiveBringUp(reducedTo(job, devices))).toBeUndefined()
      for (const device of devices.length > 1 ? devices : [])
        expect(exhaustiveBringUp(reducedTo(job, [device]))).toBeDefined()
    }
    expect(named).toBeGreaterThan(8)
  })
})

describe('replaying a plan', () => {
  it.each([4, 6])('never has two equal live addresses and ends with all verified, for random jobs of %i', (count) => {
    let followed = 0
    for (let seed = 1; seed <= 60; seed += 1) {
      const job = randomJob(seed * 13, count, 5)
      const answer = bringUp(job, { states: 1_000 })
      if (answer.kind !== 'order') continue
      followed += 1
      expect({ seed, wrong: replayed(job, answer.actions) }).toEqual({ seed, wrong: [] })
      expect(answer.cost.seconds).toBeGreaterThanOrEqual(answer.bound.seconds)
    }
    expect(followed).toBeGreaterThan(2)
  })

  it('holds for 40 devices with 12 shared defaults, and the cost is proven least', () => {
    const job = largeBringUp(40, 12)
    const order = orderOf(job)
    expect(replayed(job, order.actions)).toEqual([])
    expect(order.proven).toBe(true)
    expect(order.cost.seconds).toBe(order.bound.seconds)
    // List order goes into the factory subnet anew for almost each device: both costs by the same prices.
    expect(order.listOrder.kind === 'cost' && order.listOrder.cost.seconds - order.cost.seconds).toBeGreaterThan(1_000)
  })
})

describe('what a technician expects', () => {
  it('powers twins one after the other and stays in the factory subnet until both are set', () => {
    const order = orderOf(
      jobOf([
        { id: 'PD-101', from: '192.168.1.20', to: '10.20.40.21' },
        { id: 'PD-102', from: '192.168.1.20', to: '10.20.40.22' },
      ]),
    )
    expect(brief(order.actions)).toEqual([
      expect.stringMatching(/laptop|group-on/),
      expect.stringMatching(/laptop|group-on/),
      'set PD-101',
      'group-on Q PD-102',
      'set PD-102',
      'laptop',
      'verify PD-101',
      'verify PD-102',
    ])
    expect(order.cost).toEqual({
      seconds: 250,
      laptopChanges: 2,
      powerActions: 2,
      settings: 2,
      cableMoves: 0,
      leadMoves: 0,
    })
  })

  it('pulls the lead of one of two twins on one breaker, and plugs it when the other has moved', () => {
    const job = jobOf([
      { id: 'PD-101', from: '192.168.1.20', to: '10.20.40.21', groupId: 'Q14' },
      { id: 'PD-102', from: '192.168.1.20', to: '10.20.40.22', groupId: 'Q14' },
    ])
    const order = orderOf(job)
    expect(brief(order.actions).filter((each) => /^(lead|group|set)/.test(each))).toEqual([
      expect.stringMatching(/^lead-out PD-10/),
      'group-on Q14',
      expect.stringMatching(/^set PD-10/),
      expect.stringMatching(/^lead-in PD-10/),
      expect.stringMatching(/^set PD-10/),
    ])
    // Two visits of the laptop, one breaker, two settings, one lead pulled and plugged.
    expect(order.cost).toMatchObject({ seconds: 2 * 45 + 20 + 2 * 60 + 2 * 15, leadMoves: 2 })
    expect(replayed(job, order.actions)).toEqual([])
    const words = wordsOf(job, order.actions, (id) => id).map(({ reason }) => reason)
    expect(words).toContainEqual(
      expect.stringMatching(/^PD-10\d comes on with it, at the same address, 192\.168\.1\.20\.$/),
    )
    expect(words).toContainEqual(expect.stringMatching(/^The network lead of PD-10\d is out, so PD-10\d is alone at/))
    expect(words).toContain('Nobody else on the switch has its address now.')
  })

  it('ends with every lead in and the cable back at the switch', () => {
    const job = jobOf([{ id: 'A', from: '10.0.0.10', to: '10.0.0.11', leadPulled: true }])
    const order = orderOf(job)
    expect(brief(order.actions)).toContain('lead-in A')
    expect(replayed(job, order.actions)).toEqual([])
  })

  it('breaks a circular swap of running devices with a spare address', () => {
    const stay = { live: true, mustStayLive: true }
    const order = orderOf(
      jobOf(
        [
          { id: 'A', from: '10.0.0.10', to: '10.0.0.11', power: { ...stay, chained: true } },
          { id: 'B', from: '10.0.0.11', to: '10.0.0.10', power: { ...stay, chained: true } },
        ],
        { laptop: { subnets: [], holds: 1 } },
      ),
    )
    expect(brief(order.actions)).toContainEqual(expect.stringMatching(/^park/))
    expect(order.cost.settings).toBe(3)
  })

  it('says that twins on one chain cannot be separated, and what would help', () => {
    const answer = bringUp(
      jobOf([
        { id: 'PD-101', from: '192.168.1.20', to: '10.20.40.21', groupId: 'Q14', power: { chained: true } },
        { id: 'PD-102', from: '192.168.1.20', to: '10.20.40.22', groupId: 'Q14' },
        { id: 'EM-501', from: '192.168.66.70', to: '10.20.40.50' },
      ]),
    )
    expect(answer).toMatchObject({
      kind: 'impossible',
      deviceIds: ['PD-101', 'PD-102'],
      why: 'PD-101 and PD-102 have one address, one breaker (Q14) and one cable: none can be alone on it.',
    })
    expect(answer.kind === 'impossible' && answer.help).toEqual([
      'Connect PD-101 and PD-102 one by one: a lead of its own for each, not one cable through all.',
      'Separate PD-101 from Q14.',
      'Set PD-101 at its keypad, switches or serial menu.',
    ])
  })

  it('finds a swap impossible where every address is taken and nothing may be taken off', () => {
    const stay = { live: true, mustStayLive: true, chained: true }
    const answer = bringUp(
      jobOf(
        [
          { id: 'A', from: '10.0.0.10', to: '10.0.0.11', power: stay },
          { id: 'B', from: '10.0.0.11', to: '10.0.0.10', power: stay },
        ],
        {
          laptop: { subnets: [], holds: 1 },
          // One host is left for the laptop, none to park at: the reach of both leaves no other address.
          reserved: [],
        },
      ),
    )
    expect(answer.kind).toBe('order')
    const reach = { address: 0x0a00000a as never, prefix: 31 as never }
    const tight = jobOf([
      { id: 'A', from: '10.0.0.10', to: '10.0.0.11', power: stay, access: 'local', reach },
      { id: 'B', from: '10.0.0.11', to: '10.0.0.10', power: stay, access: 'local', reach },
    ])
    expect(bringUp(tight)).toMatchObject({ kind: 'impossible', deviceIds: ['A', 'B'] })
  })

  it('names what is missing for a device without an address that is set over IP', () => {
    const answer = bringUp(jobOf([{ id: 'RIO-111', to: '10.20.40.30' }]))
    expect(answer).toMatchObject({ kind: 'impossible', deviceIds: ['RIO-111'] })
    expect(answer.kind === 'impossible' && answer.help.join(' ')).toContain('DHCP reservation')
  })

  it('says of two that are to have one address that one needs another', () => {
    const answer = bringUp(
      jobOf([
        { id: 'INV-301', from: '10.20.40.157', to: '10.20.40.60' },
        { id: 'UPS-401', from: '192.168.66.20', to: '10.20.40.60', access: 'local' },
      ]),
    )
    expect(answer).toMatchObject({ kind: 'impossible', why: 'INV-301 and UPS-401 are to have the same address.' })
    expect(answer.kind === 'impossible' && answer.help).toEqual([
      'Plan another address for INV-301.',
      'Plan another address for UPS-401.',
    ])
  })

  it('compares laptop changes first where the job asks for that', () => {
    const devices = [
      { id: 'A', from: '10.1.0.5', to: '10.2.0.5' },
      { id: 'B', from: '10.2.0.6', to: '10.1.0.6' },
    ]
    const order = orderOf(jobOf(devices, { preference: 'fewest-changes' }))
    expect(order.cost.laptopChanges).toBe(3)
    expect(orderOf(jobOf(devices, { laptop: { subnets: [], holds: 2 } })).cost.laptopChanges).toBe(2)
  })
})
