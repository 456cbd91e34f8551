import type { Bench, PolledTag } from '@calm/bench'
import { ipv4 } from '@calm/core/address'
import { handshakeTermsOf, type Job } from '@calm/core/job'
import { sampleDevice, sampleHandshake, sampleJob, samplePoint, sampleTerm, sampleTerms } from '@calm/core/job/fixtures'
import type { TermId } from '@calm/core/terms'
import { targetOf } from './addressBook'
import { loadBenchProgram, tagsOf } from './benchProgram'
import { reachPlanText } from './reach'
import { hopPlan } from './readHop'

const terms = [
  sampleTerm('address', 'controller', '10.20.40.50'),
  sampleTerm('port', 'controller', '502'),
  sampleTerm('unit-id', 'controller', '1'),
  ...sampleTerms('function-code', '04'),
  sampleTerm('first-register', 'controller', '0'),
  sampleTerm('first-register', 'device', '30001'),
  ...sampleTerms('count', '2'),
  ...sampleTerms('data-type', 'float32'),
  sampleTerm('word-order', 'controller', 'CDAB'),
  sampleTerm('word-order', 'device', 'ABCD'),
]
const job: Job = sampleJob({
  devices: [sampleDevice('PLC', '10.20.40.10', { kind: 'controller', unitId: 255 }), sampleDevice('EM', '10.20.40.50')],
  handshakes: [
    sampleHandshake('PLC', 'EM', {
      terms,
      points: [samplePoint({ id: 'pt', served: { register: '40101', type: 'float32', order: 'ABCD' } })],
    }),
  ],
})
const planned = (made: Job, hop: 'device' | 'controller') => {
  const [handshake] = made.handshakes
  const [point] = handshake?.points ?? []
  if (!handshake || !point) throw new Error('nothing to plan')
  return hopPlan(made, handshake, point, hop)
}
const without = (id: TermId): Job => ({
  ...job,
  handshakes: job.handshakes.map((each) => ({ ...each, terms: each.terms.filter((row) => row.termId !== id) })),
})

describe('how a hop is asked', () => {
  test('the device by its own terms', () => {
    expect(planned(job, 'device')).toMatchObject({
      way: { protocol: 'modbus-tcp', address: ipv4('10.20.40.50'), port: 502, unit: 1 },
      request: { code: 4, address: 0, count: 2 },
      format: { order: 'ABCD' },
    })
  })
  test('the controller where it serves the tag', () => {
    expect(planned(job, 'controller')).toMatchObject({
      way: { protocol: 'modbus-tcp', address: ipv4('10.20.40.10'), unit: 255 },
      request: { code: 3, address: 100, count: 2 },
    })
  })
  test('nothing is asked that must not be read', () => {
    const barred = (unreadable: string) => ({
      ...job,
      handshakes: job.handshakes.map((each) => ({ ...each, unreadable })),
    })
    expect(planned(barred('1-3'), 'device')).toEqual({ missing: expect.stringMatching(/1 to 3 must not be read/) })
    expect(planned(barred('2-3, 40001'), 'device')).toMatchObject({ request: { address: 0 } })
    const [handshake] = barred('0').handshakes
    expect(handshake && reachPlanText(barred('0'), handshake)).toMatch(/^nothing: Addresses 0 to 0 must not be read/)
  })
  test('what is missing is said in words', () => {
    expect(planned(without('data-type'), 'device')).toEqual({ missing: 'Data type is blank.' })
    const unserved = { ...job, handshakes: job.handshakes.map((each) => ({ ...each, points: [samplePoint()] })) }
    expect(planned(unserved, 'controller')).toEqual({ missing: expect.stringMatching(/type what its program shows/) })
    const unplanned = { ...job, devices: [sampleDevice('PLC', null), sampleDevice('EM', '10.20.40.50')] }
    expect(planned(unplanned, 'controller')).toEqual({ missing: 'PLC has no planned address yet.' })
  })
})

describe('where a planned address is', () => {
  const bench = {
    resolveForLaptop: (address: string, port: number) => ({ host: address.replace(/^10/, '127'), port: port + 1000 }),
  } as unknown as Bench
  test('itself on the plant, loopback on the bench, nowhere without one', () => {
    expect(targetOf(bench, 'plant', '10.20.40.50', 502)).toEqual({ host: '10.20.40.50', port: 502 })
    expect(targetOf(bench, 'bench', '10.20.40.50', 502)).toEqual({ host: '127.20.40.50', port: 1502 })
    expect(targetOf(undefined, 'bench', '10.20.40.50', 502)).toBeUndefined()
  })
})

describe('the program of the controller on the bench', () => {
  const loaded = (made: Job) => {
    const programs: Record<string, readonly PolledTag[]> = {}
    loadBenchProgram(
      {
        loadProgram: (address: string, tags: readonly PolledTag[]) => void (programs[address] = tags),
      } as unknown as Bench,
      made,
    )
    return programs
  }
  test('follows the controller end, wrong word order and all', () => {
    expect(loaded(job)).toMatchObject({
      '10.20.40.10': [{ tag: 'pt', address: '10.20.40.50', unit: 1, format: { order: 'CDAB' }, servedAt: 100 }],
    })
  })
  test('a handshake whose controller end is not complete is not polled, and what was polled before stops', () => {
    expect(loaded(without('count'))).toEqual({ '10.20.40.10': [] })
  })
  test('what a change did not touch is not made again; its points and its terms are', () => {
    const [handshake] = job.handshakes
    if (!handshake) throw new Error('nothing to poll')
    const terms = handshakeTermsOf(job, handshake)
    const first = tagsOf(handshake, terms)
    expect(first).toHaveLength(1)
    expect(tagsOf(handshake, handshakeTermsOf({ ...job, name: 'other' }, handshake))).toBe(first)
    // The line-up says some terms: the handshake is the same then, and its program is not.
    const elsewhere = { ...terms, address: { controller: { text: '10.20.40.77', origin: '' } } }
    expect(tagsOf(handshake, elsewhere)).toMatchObject([{ tag: 'pt', address: '10.20.40.77' }])
    expect(tagsOf({ ...handshake, points: [] }, terms)).toEqual([])
  })
})
