import { alg, Graph } from '@dagrejs/graphlib'
import { circlesToBreak, remainingOf } from './bound'
import { compileJob, startState } from '../model'
import { jobOf } from '../fixtures/jobs'
import { seeded } from '../fixtures/randomJob'
import { Heap } from './heap'
import { precedenceOf } from '../schedule'
import { planBringUp } from '../planBringUp'

type Arcs = Map<number, Set<number>>

/** Whether arcs have a circle, by a general-purpose library: `alg.isAcyclic` of @dagrejs/graphlib. */
function hasCircle(arcs: Arcs, without: ReadonlySet<number>): boolean {
  const graph = new Graph()
  for (const [from, ends] of arcs)
    for (const to of ends) if (!without.has(from) && !without.has(to)) graph.setEdge(String(from), String(to))
  return !alg.isAcyclic(graph)
}

/** The least number of nodes that break every circle, by trying every set of nodes. */
function bruteLeast(arcs: Arcs, nodes: number): number {
  let least = nodes
  for (let mask = 0; mask < 1 << nodes; mask += 1) {
    const set = new Set(Array.from({ length: nodes }, (_, node) => node).filter((node) => mask & (1 << node)))
    if (set.size < least && !hasCircle(arcs, set)) least = set.size
  }
  return least
}

describe('returns of the laptop', () => {
  test('the least number of subnets that break every circle, against every set of subnets', () => {
    const random = seeded(7)
    let withCircles = 0
    for (let round = 0; round < 120; round += 1) {
      const arcs: Arcs = new Map()
      for (let k = 0; k < 4 + Math.floor(random() * 9); k += 1) {
        const [from, to] = [Math.floor(random() * 7), Math.floor(random() * 7)]
        if (from !== to) arcs.set(from, (arcs.get(from) ?? new Set()).add(to))
      }
      const least = bruteLeast(arcs, 7)
      if (least > 0) withCircles += 1
      expect({ round, least: circlesToBreak(arcs) }).toEqual({ round, least })
    }
    expect(withCircles).toBeGreaterThan(25)
  })

  test('without clashes the bound is the cost, in any number of subnets', () => {
    const random = seeded(11)
    for (let round = 0; round < 20; round += 1) {
      const job = jobOf(
        Array.from({ length: 14 }, (_, n) => ({
          id: `D${n}`,
          from: `10.1.${Math.floor(random() * 6)}.${20 + n}`,
          to: `10.1.${Math.floor(random() * 6)}.${120 + n}`,
        })),
      )
      const compiled = compileJob(job)
      const order = planBringUp(job)
      const least = remainingOf(compiled, startState(compiled))
      expect({ round, proven: order?.proven, changes: order?.cost.laptopChanges }).toEqual({
        round,
        proven: true,
        changes: least.laptopChanges,
      })
    }
  })
})

describe('what an action waits for', () => {
  const job = jobOf([
    { id: 'A', from: '192.168.1.20', to: '10.0.0.21', startUpSeconds: 40 },
    { id: 'B', from: '192.168.1.20', to: '10.0.0.22', access: 'local' },
    { id: 'C', from: '192.168.1.30', to: '10.0.0.23', access: 'local' },
  ])
  const at = (address: string) => {
    const target = job.devices.find((device) => device.id === address)?.target
    if (!target) throw new Error(address)
    return target
  }
  const set = (deviceId: string) =>
    ({ kind: 'set', deviceId, to: at(deviceId), parking: false, pending: false }) as const

  test('its own group with the start-up time; an address that both concern; nothing else', () => {
    const waits = precedenceOf(job, [
      { kind: 'group-on', groupId: 'Q A' },
      { kind: 'group-on', groupId: 'Q C' },
      set('A'),
      { kind: 'group-on', groupId: 'Q B' },
      set('C'),
    ])
    expect(waits[1]).toEqual([])
    expect(waits[2]).toEqual([{ after: 0, seconds: 40 }])
    expect(waits[3]?.map((wait) => wait.after)).toEqual([0, 2])
    expect(waits[4]).toEqual([{ after: 1, seconds: 30 }])
  })

  test('the laptop is moved in its order, and what needs it stays between its moves', () => {
    const into = at('A')
    const waits = precedenceOf(job, [
      { kind: 'laptop', into, leaves: null },
      { kind: 'verify', deviceId: 'A' },
      set('C'),
      { kind: 'laptop', into: at('B'), leaves: into },
    ])
    expect(waits[1]?.map((wait) => wait.after)).toEqual([0])
    expect(waits[2]).toEqual([])
    expect(waits[3]?.map((wait) => wait.after)).toEqual([0, 1])
  })
})

test('a heap gives the least first, however it was filled', () => {
  const random = seeded(3)
  const heap = new Heap<number>((a, b) => a < b)
  const numbers = Array.from({ length: 200 }, () => Math.floor(random() * 50))
  for (const number of numbers) heap.push(number)
  const taken = Array.from({ length: 200 }, () => heap.pop())
  expect(taken).toEqual([...numbers].sort((a, b) => a - b))
  expect(heap.pop()).toBeUndefined()
})
