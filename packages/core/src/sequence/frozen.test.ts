import { bringUp } from './bringUp'
import { exhaustiveBringUp, host, jobOf, powerJob, randomJob, replayed, withFrozen } from './fixtures'
import type { BringUpJob } from './model'

const measured = (job: BringUpJob, { seconds, laptopChanges, powerActions, settings }: Record<string, number>) =>
  job.preference === 'seconds'
    ? [seconds, laptopChanges, powerActions, settings]
    : [laptopChanges, powerActions, settings, seconds]

describe('what is not in the order stays in the plant', () => {
  // Beside the exhaustive search of fixtures/exhaustive.ts, which knows nothing of the planner.
  it.each([
    ['scarce addresses', (seed: number) => withFrozen(randomJob(seed * 10 + 3, 3, 3), seed), 50, 12_000, 12],
    ['two devices', (seed: number) => withFrozen(randomJob(seed * 7 + 2, 2, 3), seed), 120, 400_000, 30],
    ['much that waits for power', (seed: number) => withFrozen(powerJob(seed * 23 + 3, 3), seed), 24, 12_000, 5],
  ])('the order costs exactly what the search of everything finds: %s', (_, jobFor, count, most, least) => {
    const seen = { possible: 0, impossible: 0 }
    for (let seed = 1; seed <= count; seed += 1) {
      const job = jobFor(seed)
      let all: ReturnType<typeof exhaustiveBringUp>
      try {
        all = exhaustiveBringUp(job, most)
      } catch {
        continue
      }
      seen[all ? 'possible' : 'impossible'] += 1
      const answer = bringUp(job)
      const measures = answer.kind === 'order' && answer.proven ? measured(job, { ...answer.cost }) : answer.kind
      expect({ seed, measures }).toEqual({ seed, measures: all?.measures ?? 'impossible' })
      if (answer.kind === 'order') expect({ seed, wrong: replayed(job, answer.actions) }).toEqual({ seed, wrong: [] })
    }
    expect(seen.possible).toBeGreaterThan(least)
    expect(seen.possible + seen.impossible).toBeGreaterThan(count / 4)
  })

  it('names who holds the address, and pulling its lead is a way out that was tried', () => {
    const answer = bringUp(
      jobOf([
        { id: 'A', from: '192.168.1.20', to: '10.0.0.21' },
        { id: 'OLD', from: '10.0.0.21', to: '10.0.0.22', frozen: true, power: { live: true } },
        { id: 'C', from: '192.168.1.21', to: '10.0.0.23' },
      ]),
    )
    expect(answer).toMatchObject({
      kind: 'impossible',
      deviceIds: ['A', 'OLD'],
      why: 'OLD is not in the order and holds 10.0.0.21, the planned address of A.',
      leadsOf: ['OLD'],
    })
    expect(answer.kind === 'impossible' && answer.help).toEqual([
      'Plan another address for A.',
      'Take OLD into the order.',
      'Pull the network lead of OLD, and say so here.',
    ])
  })

  it('does not put on a breaker that only powers such, nor ask that it is on', () => {
    const answer = bringUp(
      jobOf([
        { id: 'A', from: '192.168.1.20', to: '10.0.0.21' },
        { id: 'OFF', from: '192.168.1.20', to: '10.0.0.22', frozen: true },
      ]),
    )
    if (answer.kind !== 'order') throw new Error(answer.kind)
    expect(answer.actions.filter((action) => action.kind === 'group-on')).toEqual([
      { kind: 'group-on', groupId: 'Q A' },
    ])
  })

  it('goes straight into a device that would come on beside one at its address', () => {
    const answer = bringUp(
      jobOf([
        { id: 'A', from: '192.168.1.20', to: '10.0.0.21', groupId: 'Q1' },
        { id: 'STAYS', from: '192.168.1.20', to: '10.0.0.22', groupId: 'Q1', frozen: true },
      ]),
    )
    if (answer.kind !== 'order') throw new Error(answer.kind)
    expect(answer.actions.map(({ kind }) => kind)).toContain('cable')
  })

  it('what waits in it comes into force with its breaker', () => {
    const power = { live: true, chained: true }
    const job = jobOf([
      { id: 'A', from: '10.0.0.30', to: '10.0.0.21', groupId: 'Q1', effect: 'power-cycle', access: 'local', power },
      {
        id: 'WAITS',
        from: '10.0.0.21',
        to: '10.0.0.22',
        groupId: 'Q1',
        frozen: true,
        pending: host('10.0.0.22', 24),
      },
    ])
    const answer = bringUp(job)
    if (answer.kind !== 'order') throw new Error(answer.kind)
    expect(replayed(job, answer.actions)).toEqual([])
  })
})
