import { applyChanges } from '../changes'
import type { Evidence } from '../evidence'
import { instant } from '../units'
import { claspFor, ladderFor, pendingTermsOf, sayAllAsPlanned, sayStanding, standingFor, type TermStanding } from '.'
import { sampleDevice, sampleHandshake, sampleJob, sampleTerms } from './fixtures'
import type { Job } from './model'

let made = 0
const newId = () => `s${(made += 1)}`
const start = sampleJob({
  devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('EM', '10.20.40.50', { kind: 'meter', unitId: 1 })],
  handshakes: [
    sampleHandshake('PLC', 'EM', {
      terms: [
        ...['address', 'port', 'unit-id'].flatMap((id, k) =>
          sampleTerms(id as 'port', ['10.20.40.50', '502', '1'][k] ?? ''),
        ),
        ...sampleTerms('function-code', '03'),
        ...sampleTerms('first-register', '10'),
        ...sampleTerms('count', '2'),
        ...sampleTerms('data-type', 'float32'),
        ...sampleTerms('word-order', 'ABCD'),
        ...sampleTerms('scale', '1'),
      ],
    }),
  ],
})
const handshakeOf = (job: Job) => {
  const [first] = job.handshakes
  if (!first) throw new Error('no handshake')
  return first
}
/** Said one after the other, a second apart. */
const said = (job: Job, ...all: readonly (readonly [TermStanding, string])[]) =>
  all.reduce((now, [standing, text], k) => {
    const row = { id: 'word-order' } as const
    const change = sayStanding(
      now,
      handshakeOf(now),
      { row, end: 'device', standing, entry: { text }, how: 'seen', origin: '' },
      newId,
    )
    return applyChanges(now, [change], { who: 'A', at: 1000 * (k + 1) })
  }, job)
const stateOf = (job: Job) => standingFor(job, handshakeOf(job)).get('word-order')?.device.state
const agreed = (job: Job) => ladderFor(job, handshakeOf(job)).rungs.find(({ rung }) => rung === 'agreed')

test.each<[string, readonly (readonly [TermStanding, string])[], string]>([
  ['nothing but the plan', [], 'open'],
  ['found otherwise', [['found', 'CDAB']], 'to-enter'],
  ['found as planned is at work as planned', [['found', 'abcd']], 'in-force'],
  [
    'found otherwise, entered as planned',
    [
      ['found', 'CDAB'],
      ['entered', 'ABCD'],
    ],
    'pending',
  ],
  [
    'entered, then seen in force',
    [
      ['entered', 'ABCD'],
      ['in-force', 'ABCD'],
    ],
    'in-force',
  ],
  [
    'entered, and still the old one at work',
    [
      ['entered', 'ABCD'],
      ['in-force', 'CDAB'],
    ],
    'otherwise',
  ],
  [
    'entered something else',
    [
      ['in-force', 'ABCD'],
      ['entered', 'CDAB'],
    ],
    'otherwise',
  ],
  [
    'in force as planned, entered again the same',
    [
      ['in-force', 'ABCD'],
      ['entered', 'ABCD'],
    ],
    'in-force',
  ],
  [
    'in force once, found otherwise later',
    [
      ['in-force', 'ABCD'],
      ['found', 'CDAB'],
    ],
    'to-enter',
  ],
])('%s', (_what, all, state) => expect(stateOf(said(start, ...all))).toBe(state))

test('the plan that changes afterwards opens the rung again, and says which term', () => {
  const all = sayEverything(start)
  expect(agreed(all)).toMatchObject({ state: 'proven', because: 'All 10 terms are in force at both ends.' })
  const handshake = handshakeOf(all)
  const term = handshake.terms.find((each) => each.termId === 'scale' && each.end === 'device')
  const other = handshake.terms.find((each) => each.termId === 'scale' && each.end === 'controller')
  const set = (id: string, version: number) =>
    ({ op: 'set', table: 'term', id, version, fields: { text: '0.1' } }) as const
  const moved = applyChanges(all, [set(term?.id ?? '', term?.version ?? 1), set(other?.id ?? '', other?.version ?? 1)])
  expect(agreed(moved)).toMatchObject({ state: 'at-odds', because: 'Not as planned at work or entered: Scale.' })
})

/** Everything of both ends, in force. */
function sayEverything(job: Job): Job {
  const rows = claspFor(job, handshakeOf(job)).rows
  const changes = (['controller', 'device'] as const).flatMap((end) =>
    sayAllAsPlanned(job, handshakeOf(job), rows, end, 'in-force', () => false, newId),
  )
  expect(changes).toHaveLength(20)
  return applyChanges(job, changes, { who: 'A', at: 5000 })
}

test('entered and not in force keeps the rung in hand, whatever was said before', () => {
  const all = sayEverything(start)
  const pending = said(start, ['entered', 'ABCD'])
  expect(agreed(pending)).toMatchObject({ state: 'in-hand', because: 'Entered and not in force yet: Word order.' })
  expect(agreed(all)?.state).toBe('proven')
})

test('what a shared row holds is said once for every handshake that uses it', () => {
  const two = {
    ...start,
    handshakes: [
      ...start.handshakes,
      sampleHandshake('PLC', 'EM', {
        id: 'other',
        terms: handshakeOf(start).terms.map((term) => ({ ...term, id: `${term.id}b` })),
      }),
    ],
  }
  const change = sayStanding(
    two,
    handshakeOf(two),
    {
      row: { id: 'address' },
      end: 'device',
      standing: 'in-force',
      entry: { text: '10.20.40.50' },
      how: 'read-live',
      origin: '',
    },
    newId,
  )
  const now = applyChanges(two, [change], { who: 'A', at: 1 })
  for (const each of now.handshakes)
    expect([each.id, standingFor(now, each).get('address')?.device.state]).toEqual([each.id, 'in-force'])
})

test('evidence shows what it rested on: the rung Reached the address, never the controller’s end', () => {
  const seen: Evidence = {
    id: 'e',
    subject: { kind: 'device', id: 'EM' },
    rung: 'reached',
    verdict: 'proven',
    who: 'B',
    at: instant(9),
    how: 'read-live',
    mode: 'plant',
    facts: [],
    basis: { 'address.device': '10.20.40.50', 'address.controller': '10.20.40.50', 'word-order.device': 'ABCD' },
  }
  const job = { ...start, evidence: [seen] }
  const standing = standingFor(job, handshakeOf(job))
  expect(standing.get('address')).toMatchObject({ device: { state: 'in-force' }, controller: { state: 'open' } })
  expect(standing.get('word-order')?.device.state).toBe('open')
  // A right reading shows the terms of its request; from a place of its own only how the device is asked.
  const read = (more: object) => {
    const reading = {
      ...seen,
      rung: 'reading',
      basis: { ...seen.basis, 'function-code.device': '03', ...more },
    } as Evidence
    const now = standingFor({ ...start, evidence: [reading] }, handshakeOf(start))
    return [now.get('word-order')?.device.state, now.get('function-code')?.device.state]
  }
  expect([read({}), read({ source: '30010 uint16' })]).toEqual([
    ['in-force', 'in-force'],
    ['open', 'in-force'],
  ])
  const odds = { ...start, evidence: [{ ...seen, verdict: 'at-odds' as const }] }
  expect(standingFor(odds, handshakeOf(odds)).get('address')?.device.state).toBe('open')
})

test('what waits, by device, with what brings it into force', () => {
  expect(pendingTermsOf(start)).toEqual([])
  const [device, ...others] = pendingTermsOf(said(start, ['found', 'CDAB'], ['entered', 'ABCD']))
  expect(others).toEqual([])
  expect(device).toMatchObject({
    device: { tag: 'EM' },
    rule: 'save-and-restart',
    seconds: 10,
    terms: [{ state: 'pending', planned: 'ABCD', there: 'ABCD' }],
  })
})
