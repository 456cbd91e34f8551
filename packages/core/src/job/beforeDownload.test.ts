import { applyChanges } from '../changes'
import { beforeDownload, pendingTermsOf, sayStanding, type TermStanding } from '.'
import { sampleDevice, sampleEvidence, sampleHandshake, sampleJob, sampleTerm } from './fixtures'
import type { TermId } from '../terms'
import type { Device, Handshake, Job } from './model'

let made = 0
const newId = () => `s${(made += 1)}`
const say = (job: Job, handshake: Handshake, id: TermId, standing: TermStanding, text: string, at: number) =>
  applyChanges(
    job,
    [
      sayStanding(
        job,
        handshake,
        { row: { id }, end: 'device', standing, entry: { text }, how: 'seen', origin: '' },
        newId,
      ),
    ],
    { who: 'A', at },
  )

const handshake = sampleHandshake('PLC', 'EM', {
  terms: [
    sampleTerm('word-order', 'device', 'ABCD'),
    sampleTerm('scale', 'device', '10'),
    sampleTerm('count', 'device', '2'),
    sampleTerm('send-scope', 'device', 'page'),
  ],
})
const job = (more: Partial<Device> = {}) =>
  sampleJob({
    devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('EM', '10.20.40.50', more)],
    handshakes: [handshake],
  })
const emOf = (each: Job) => {
  const device = each.devices.find(({ tag }) => tag === 'EM')
  if (!device) throw new Error('no EM')
  return device
}
const before = (each: Job) => beforeDownload(each, emOf(each))

test('nobody has looked: nothing is said to be overwritten, and everything is said to be unseen', () => {
  const seen = before(job())
  expect([seen.overwritten.length, seen.same]).toEqual([0, 0])
  expect(seen.neverSeen.map(({ name }) => name)).toEqual(expect.arrayContaining(['Word order', 'Scale', 'Count']))
  expect(new Set(seen.neverSeen.map(({ otherTag }) => otherTag))).toEqual(new Set(['PLC']))
  expect(seen.scope).toBe('one page')
})

test('what was found otherwise is overwritten; what is as planned stays; the later look counts', () => {
  let now = say(job(), handshake, 'word-order', 'found', 'CDAB', 1000)
  now = say(now, handshake, 'scale', 'in-force', '10', 1000)
  expect(before(now).overwritten.map(({ name, there, planned }) => [name, there.text, planned])).toEqual([
    ['Word order', 'CDAB', expect.any(String)],
  ])
  expect(before(now).same).toBe(1)
  expect(before(say(now, handshake, 'word-order', 'in-force', 'ABCD', 2000)).overwritten).toEqual([])
})

test.each<[Partial<Device>, readonly [string, string][]]>([
  [{ orderCode: 'PM-3C', orderCodeFound: 'pm-3c' }, [['order code', 'same']]],
  [{ orderCode: 'PM-3C', orderCodeFound: 'PM-3D' }, [['order code', 'differs']]],
  [{ orderCode: 'PM-3C' }, [['order code', 'not-compared']]],
  [{ serialNumber: '77' }, [['serial number', 'not-compared']]],
  [{}, []],
])('the target of %j', (more, checks) => {
  expect(before(job(more)).target.map(({ what, state }) => [what, state])).toEqual(checks)
})

test('the product code that it told of itself is compared too', () => {
  const told = sampleEvidence('handshake', handshake.id, 'reached', {
    facts: [{ kind: 'identity', name: 'product code', text: 'PM-9' }],
  })
  const { target } = before({ ...job({ orderCode: 'PM-3C' }), evidence: [told] })
  expect(target).toContainEqual({ what: 'product code', planned: 'PM-3C', seen: 'PM-9', state: 'differs' })
})

test('a value held by hand is told for the device that its place names, not for one whose tag begins so', () => {
  const held = (where: string) => ({
    id: where,
    version: 1,
    where,
    value: '1',
    who: 'A',
    at: 1,
    releasedBy: null,
    releasedAt: null,
  })
  const forced = [held('EM, pump on'), held('EM-1 pump'), { ...held('EM again'), releasedAt: 5 }]
  expect(before({ ...job(), forced }).forced.map(({ where }) => where)).toEqual(['EM, pump on'])
})

/** Set at its keypad in local: until somebody has seen it back in remote it waits. */
test('a device that is set in a mode of its own waits for its return', () => {
  const local = sampleHandshake('PLC', 'EM', {
    terms: [sampleTerm('local-remote', 'device', 'remote'), sampleTerm('word-order', 'device', 'ABCD')],
  })
  const base = { ...job({ setting: 'keypad', effective: 'at-once' }), handshakes: [local] }
  const returns = (each: Job) =>
    pendingTermsOf(each).flatMap((device) => device.returns.map(({ row, after }) => `${row.id} ${after}`))
  expect(returns(base)).toEqual([])
  const entered = say(base, local, 'word-order', 'entered', 'ABCD', 1000)
  expect(returns(entered)).toEqual(['local-remote remote'])
  const inForce = say(entered, local, 'word-order', 'in-force', 'ABCD', 2000)
  expect(returns(inForce)).toEqual(['local-remote remote'])
  expect(returns(say(inForce, local, 'local-remote', 'in-force', 'local', 3000))).toEqual(['local-remote remote'])
  const back = say(inForce, local, 'local-remote', 'in-force', 'remote', 3000)
  expect(returns(back)).toEqual([])
  expect(returns(say(back, local, 'word-order', 'entered', 'ABCD', 4000))).toEqual(['local-remote remote'])
})

test('a way of setting that needs no mode waits for none', () => {
  const base = { ...job({ setting: 'web-page', effective: 'at-once' }), handshakes: [handshake] }
  const entered = say(base, handshake, 'word-order', 'entered', 'ABCD', 1000)
  expect(pendingTermsOf(entered).flatMap(({ returns }) => returns)).toEqual([])
})
