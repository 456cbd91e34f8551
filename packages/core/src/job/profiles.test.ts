import { applyChanges, beginHandshakeChanges } from '../changes'
import { deviationsFrom, profileOf, putKindOn, rowsAtDefault } from '.'
import type { Job } from './model'
import { sampleDevice, sampleHandshake, sampleJob, samplePoint, sampleTerms } from './fixtures'

let made = 0
const newId = () => `p${(made += 1)}`
const unit = (tag: string, at: number) => sampleDevice(tag, `10.20.40.${at}`, { kind: 'meter', unitId: at })
const asked = (tag: string, terms: Readonly<Record<string, string>>) =>
  sampleHandshake('PLC', tag, {
    id: tag,
    terms: Object.entries(terms)
      .flatMap(([id, text]) => sampleTerms(id as 'scale', text))
      .map((term, k) => ({ ...term, id: `${tag}${k}` })),
  })
const whole = { 'function-code': '03', count: '2', 'data-type': 'float32', 'word-order': 'CDAB', scale: '0.1' }
const job = sampleJob({
  devices: [
    sampleDevice('PLC', '10.20.40.10'),
    unit('M1', 51),
    { ...unit('M2', 52), startUpSeconds: 99 },
    unit('M3', 53),
  ],
  handshakes: [
    asked('M1', whole),
    asked('M2', { ...whole, 'word-order': 'cdab', scale: '1' }),
    asked('M3', { count: '2' }),
  ],
})
const device = (tag: string, of: Job = job) => {
  const found = of.devices.find((each) => each.tag === tag)
  if (!found) throw new Error(tag)
  return found
}

test('a profile carries what others can have too, never an address, a unit or a name', () => {
  const profile = profileOf(job, device('M1'), 'own-meter', 'As M1')
  // What the kind says already stays, unless the device says otherwise.
  expect(profile.terms).toMatchObject(whole)
  for (const id of ['address', 'unit-id', 'mask', 'port', 'name', 'serial-number'] as const)
    expect(profile.terms).not.toHaveProperty(id)
  expect(profileOf(job, device('M2'), 'x', 'x').startUpSeconds).toBe(99)
  // What is read of it goes with it, and a handshake with another one begins with these points.
  const place = { register: '30010', type: 'uint16', order: 'ABCD', scale: 0.1 } as const
  const [first, ...others] = job.handshakes
  const read = {
    ...job,
    handshakes: [{ ...first, points: [samplePoint({ quantity: 'Flow', unit: 'l/min', source: place })] }, ...others],
  } as Job
  const kind = profileOf(read, device('M1', read), 'own-meter', 'As M1')
  expect(kind.points).toEqual([{ quantity: 'Flow', unit: 'l/min', decimals: expect.any(Number), place }])
  const next = {
    ...read,
    kinds: [{ id: 'k', version: 1, facts: kind }],
    devices: [...read.devices, { ...unit('M9', 59), kind: 'own-meter' }],
  }
  const begun = beginHandshakeChanges(next, { controllerId: 'PLC', deviceId: 'M9' }, newId).changes
  expect(begun.filter(({ table }) => table === 'point')).toMatchObject([
    { fields: { tag: 'M9_Flow', quantity: 'Flow', source: place } },
  ])
  expect(rowsAtDefault(job, first ?? asked('x', {}), { rows: [] })).toEqual([])
})

test('deviations are told by what is meant; put on, none are left, and only its own end has changed', () => {
  const kind = profileOf(job, device('M1'), 'own-meter', 'As M1')
  const withKind = { ...job, kinds: [{ id: 'k', version: 1, facts: kind }] }
  const differs = (tag: string, of: Job = withKind) =>
    deviationsFrom(of, device(tag, of), 'own-meter').map(({ id, is, profile }) => `${id}: ${is || '-'} to ${profile}`)
  // `cdab` is CDAB.
  expect(differs('M2')).toEqual(['scale: 1 to 0.1'])
  expect(differs('M3')).toEqual([
    'function-code: - to 03',
    'data-type: - to float32',
    'word-order: - to CDAB',
    'scale: - to 0.1',
  ])
  expect(differs('M1')).toEqual([])
  const changes = putKindOn(withKind, kind, [device('M2'), device('M3')], newId)
  expect(changes).toHaveLength(2 + 1 + 4)
  const now = applyChanges(withKind, changes)
  expect([differs('M2', now), differs('M3', now)]).toEqual([[], []])
  expect(['M1', 'M2', 'M3'].map((tag) => device(tag, now).kind)).toEqual(['meter', 'own-meter', 'own-meter'])
  expect(
    now.handshakes
      .flatMap(({ terms }) => terms)
      .filter(({ end, termId, text }) => end === 'controller' && termId === 'scale' && text === '0.1'),
  ).toHaveLength(1)
  expect(deviationsFrom(now, device('M2', now))).toEqual([])
})

test('what is left out by choice is not set', () => {
  const kind = profileOf(job, device('M1'), 'own-meter', 'As M1')
  const withKind = { ...job, kinds: [{ id: 'k', version: 1, facts: kind }] }
  expect(putKindOn(withKind, kind, [device('M2')], newId, () => false)).toEqual([
    expect.objectContaining({ table: 'device', fields: { kind: 'own-meter' } }),
  ])
})
