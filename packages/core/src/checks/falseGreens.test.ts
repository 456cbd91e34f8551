import type { Device, Job } from '../job'
import { sampleDevice, sampleHandshake, sampleJob, samplePort } from '../job/fixtures'
import {
  asItStands,
  blankWalk,
  changedSince,
  checkFacts,
  checkIds,
  LISTED_DEVICES,
  restsOf,
  type CheckId,
  type SettingFact,
  type StepRecord,
  type WalkRecord,
} from '../procedure'
import {
  controllerSees,
  firmware,
  identified,
  judgeBefore,
  judgeGone,
  judgeLegs,
  judgeReached,
  judgeReturned,
  judgeRow,
  judgeText,
  judgeUnits,
  macKnown,
  nodesListed,
  servedVerified,
  type SeenAt,
  type Written,
} from '.'

/** Each is a way in which a check said that something was so when nobody had looked. */

const fact = (deviceId: string, setting: string, text: string, more: Partial<SettingFact> = {}): SettingFact => ({
  id: `${deviceId} ${setting} ${text}`,
  deviceId,
  setting,
  standing: 'found',
  text,
  how: 'seen',
  who: 'R. Osei',
  at: 1,
  ...more,
})
const walk = (facts: readonly SettingFact[], more: Partial<WalkRecord> = {}): WalkRecord => ({
  ...blankWalk,
  facts,
  ...more,
})
const about = (device: Device, facts: readonly SettingFact[] = [], others: readonly Device[] = []): Written => ({
  job: sampleJob({ devices: [device, ...others] }),
  device,
  record: walk(facts),
})
const meter = (more: Partial<Device> = {}) => sampleDevice('EM', '10.20.40.50', { orderCode: 'EM-3F', ...more })
const seen = (more: Partial<SeenAt> = {}): SeenAt => ({
  address: '10.20.40.50',
  ports: [{ port: 80, connection: 'open' }],
  identities: [],
  hardwareAddress: null,
  canSee: true,
  hasLink: true,
  ...more,
})
const says = (...parts: readonly string[]) => ({
  text: parts.join(', '),
  productCode: parts[1] ?? '',
  revision: '',
  parts,
})
const silent = { ports: [{ port: 502, connection: 'silent' as const }] }

describe('gone', () => {
  test('with the laptop’s cable out, or not known to be in, silence says nothing', () => {
    expect(judgeGone(seen(silent)).verdict).toBe('passed')
    expect(judgeGone(seen({ ...silent, canSee: false, hasLink: false })).verdict).toBe('not-conclusive')
    expect(judgeGone(seen({ ...silent, hasLink: false })).verdict).toBe('not-conclusive')
  })
})

describe('reached, once its label was read', () => {
  const labelled = [fact('EM', 'identity', 'label')]
  test.each<[string, Partial<SeenAt>]>([
    ['a page of somebody', {}],
    ['a code that nobody planned', { identities: [says('Maker', 'ZZ-9')] }],
    ['the name of another one', { identities: [says('Maker', '', 'UPS')] }],
    ['its code, under the name of another one', { identities: [says('Maker', 'EM-3F', 'UPS')] }],
  ])('%s is not the device that is meant', (_, more) =>
    expect(judgeReached(about(meter(), labelled, [sampleDevice('UPS', null)]), seen(more)).verdict).toBe(
      'not-conclusive',
    ),
  )
  test('a hardware address in another notation is the same one', () => {
    const own = meter({ ports: [samplePort('10.20.40.50', { mac: '02:5E:0B:10:7C:11' })] })
    expect(judgeReached(about(own), seen({ hardwareAddress: '02-5e-0b-10-7c-11' })).verdict).toBe('passed')
    expect(macKnown(about(own, [fact('EM', 'mac', '025e.0b10.7c11')])).verdict).toBe('passed')
  })
})

describe('which box it is', () => {
  const drive = (tag: string, address: string) => sampleDevice(tag, address, { kind: 'drive', asFound: '192.168.1.20' })
  const twins = (facts: readonly SettingFact[], more: Partial<WalkRecord> = {}) =>
    identified({
      ...about(drive('PD-1', '10.20.40.21'), [], [drive('PD-2', '10.20.40.22')]),
      record: walk(facts, more),
    })
  const begun = { order: [{ kind: 'laptop', to: { address: 1, prefix: 24 } }] as never }

  test('two on one factory address, power unknown: not conclusive', () =>
    expect(twins([]).verdict).toBe('not-conclusive'))
  test('the order that was begun says who has no power; of whom is left out it says nothing', () => {
    expect(twins([], begun).verdict).toBe('passed')
    const leftOut = { ...begun, settings: { ...blankWalk.settings, leftOut: ['PD-2'] } }
    expect(twins([], leftOut).verdict).toBe('not-conclusive')
  })
  test('switched on it is one, switched off or unplugged it is none', () => {
    expect(twins([fact('PD-2', 'power', 'on')], begun).verdict).toBe('failed')
    expect(twins([fact('PD-2', 'power', 'off')]).verdict).toBe('passed')
    expect(twins([fact('PD-2', 'power', 'on'), fact('PD-2', 'network-lead', 'pulled')]).verdict).toBe('passed')
  })
})

describe('pictures of another day', () => {
  const HOUR = 3_600_000
  const at = (hours: number, answers = true) => ({
    at: hours * HOUR,
    devices: [{ tag: 'A', answers, identity: 'X' }],
    notes: [],
  })
  test('a before-picture is of today, and from before the first change', () => {
    const judge = (changedAt?: number) => judgeBefore(at(10), ['A'], { now: 20 * HOUR, changedAt }).verdict
    expect(judge()).toBe('passed')
    expect(judge(11 * HOUR)).toBe('passed')
    expect(judge(9 * HOUR)).toBe('not-conclusive')
    expect(judgeBefore(at(10), ['A'], { now: 35 * HOUR, changedAt: undefined }).verdict).toBe('not-conclusive')
  })
  test('back is judged by pictures from either side of the change', () => {
    const judge = (before: number, after: number) =>
      judgeReturned(at(before), at(after), [], { first: 12 * HOUR, last: 14 * HOUR }).verdict
    expect(judge(10, 15)).toBe('passed')
    // Both from before the swap, from in the middle of it, from after it, and a week old.
    for (const [before, after] of [
      [10, 11],
      [10, 13],
      [13, 15],
      [15, 16],
      [-200, 15],
    ] as const)
      expect(judge(before, after)).toBe('not-conclusive')
    expect(judgeReturned(at(10), at(15), []).verdict).toBe('not-conclusive')
  })
})

describe('verified once, and planned otherwise since', () => {
  const serving = (served: Device, facts: readonly SettingFact[]): Written => ({
    job: sampleJob({
      devices: [sampleDevice('PLC', '10.20.40.10'), served],
      handshakes: [sampleHandshake('PLC', served.tag)],
    }),
    device: sampleDevice('PLC', '10.20.40.10'),
    record: walk(facts),
  })
  const unit = (unitId: number) => sampleDevice('FM', null, { ports: [], behindId: 'PLC', unitId })
  test('its planned unit changed', () => {
    const was3 = [fact('FM', 'unit-id', '3', { standing: 'verified' })]
    expect(servedVerified(serving(unit(3), was3)).verdict).toBe('passed')
    expect(servedVerified(serving(unit(4), was3)).verdict).toBe('failed')
  })
  test('it was found elsewhere since', () => {
    const verified = fact('EM', 'address', '10.20.40.50', { standing: 'verified' })
    const elsewhere = fact('EM', 'address', '192.168.1.20', { at: 2 })
    expect(servedVerified(serving(meter(), [verified])).verdict).toBe('passed')
    expect(servedVerified(serving(meter(), [verified, elsewhere])).verdict).toBe('failed')
  })
  test('the download was opened again: its old list says nothing', () => {
    const listed = serving(meter(), [fact('PLC', LISTED_DEVICES, 'EM; ok')])
    expect(controllerSees(listed, 0).verdict).toBe('passed')
    expect(controllerSees(listed, undefined).verdict).toBe('not-conclusive')
    expect(nodesListed(listed, [meter()], undefined).verdict).toBe('not-conclusive')
  })
})

describe('units and rows', () => {
  test('one without a number, and two at one, are not "every unit answers"', () => {
    const unit = (tag: string, number: number | null) => ({
      tag,
      unit: number,
      identity: number === null ? undefined : '',
    })
    expect(judgeUnits([unit('A', 1), unit('B', 2)]).verdict).toBe('passed')
    expect(judgeUnits([unit('A', 1), unit('B', null)]).verdict).toBe('not-conclusive')
    expect(judgeUnits([unit('A', 1), unit('B', 1)]).verdict).toBe('failed')
  })
  const module = (tag: string, unit: number, identity: string, orderCode: string) => ({
    tag,
    unit,
    identity,
    orderCode,
  })
  test('modules done out of turn say so by what they are', () => {
    const [di, ao] = ['Maker, DI-16', 'Maker, AO-4']
    const row = (first: string, second: string) =>
      judgeRow({ units: [module('M1', 1, first, 'DI-16'), module('M2', 2, second, 'AO-4')], next: undefined })
    expect(row(di, ao)).toMatchObject({ verdict: 'passed', say: expect.stringContaining('Each says') as string })
    expect(row(ao, di)).toMatchObject({ verdict: 'failed', say: expect.stringContaining('out of turn') as string })
    expect(row(di, 'Maker, ZZ-1').verdict).toBe('not-conclusive')
    expect(row(di, '').say).toContain('rests on the order in which they were done')
  })
  test('two equal modules cannot tell which is which', () => {
    const equal = judgeRow({
      units: [module('M1', 1, 'Maker, DI-16', 'DI-16'), module('M2', 2, 'Maker, DI-16', 'DI-16')],
      next: undefined,
    })
    expect(equal).toMatchObject({ verdict: 'passed', say: expect.stringContaining('rests on the order') as string })
  })
  test('legs are judged like everything else: a second leg that nobody looked at passes nothing', () => {
    const first = { verdict: 'passed', say: '', compared: 1, of: 1, how: 'read-live' } as const
    const legs = (second: Parameters<typeof judgeLegs>[0]['second']) =>
      judgeLegs({ tag: 'FM', relay: 'GW', first, second })
    expect(legs({ kind: 'unit', unit: 3, identity: '' })).toMatchObject({ verdict: 'passed', compared: 2, of: 2 })
    expect(legs({ kind: 'unit', unit: 3, identity: undefined }).verdict).toBe('failed')
    expect(legs({ kind: 'not-planned' })).toMatchObject({ verdict: 'not-conclusive', compared: 1, of: 2 })
    expect(legs({ kind: 'text-port', port: 4001, connection: 'refused' }).verdict).toBe('failed')
    expect(legs(undefined).verdict).toBe('not-conclusive')
    const dark = judgeLegs({ tag: 'FM', relay: 'GW', first: { ...first, verdict: 'failed' }, second: undefined })
    expect(dark).toMatchObject({ verdict: 'failed', compared: 1, of: 2 })
  })
})

describe('text that is none of the device', () => {
  const came = (text: string, expected = 'BAG 17') =>
    judgeText({ relay: 'SC', port: 4001, came: text, expected }).verdict
  test.each(['\r\n', '\u0000\u0001', '\xff\xfd\x18', 'login: ', 'User name:', 'admin@sc-701:~$ ', '> '])(
    '%j fails',
    (text) => expect(came(text)).toBe('failed'),
  )
  test('what the tag says, and nothing else', () => {
    expect(came('BAG 17\r\n')).toBe('passed')
    expect(came('BAG 18\r\n')).toBe('failed')
    expect(came('BAG 17', '')).toBe('not-conclusive')
  })
})

test.each([
  ['n/a', 'not-above', '3.1'],
  ['?', 'equal', '?'],
  ['unknown', 'at-least', '1'],
  ['3.1', 'at-least', '-'],
] as const)('firmware "%s", %s "%s": compared with nothing', (firmwareFound, firmwareRelation, firmwareNeeded) =>
  expect(firmware(about(meter({ firmwareFound, firmwareRelation, firmwareNeeded })))).toMatchObject({
    verdict: 'not-conclusive',
    compared: 0,
  }),
)

describe('what a check rests on', () => {
  const network = { gateway: '10.20.40.1' }
  const job = (more: Partial<Device> = {}, change: Partial<Job> = {}): Job =>
    sampleJob({
      devices: [
        meter({ hostName: 'em', namePlaces: [{ where: 'server', text: 'em' }], ...more }),
        sampleDevice('FM', null, { ports: [], behindId: 'EM', unitId: 3, firmwareNeeded: '2' }),
      ],
      handshakes: [sampleHandshake('EM', 'FM')],
      ...change,
    })
  const passed = (check: CheckId, of: Job, facts: readonly SettingFact[] = [], deviceId = 'EM'): StepRecord => ({
    id: 's',
    stepKey: `set EM 1 / ${deviceId} s`,
    state: 'done',
    note: '',
    who: 'R. Osei',
    at: 5,
    wait: null,
    rests: restsOf(
      of,
      walk(facts),
      check,
      of.devices.filter(({ id }) => id === deviceId),
    ),
    version: 1,
  })
  const standsAfter = (step: StepRecord, of: Job, facts: readonly SettingFact[] = []) =>
    asItStands(of, walk(facts, { steps: [step] }), step).state

  test.each(Object.keys(checkIds) as CheckId[])('%s stands as long as nothing changes', (check) => {
    expect(standsAfter(passed(check, job()), job())).toBe('done')
    expect(checkFacts[check].looksAt).not.toBe('')
  })

  const moved = { ports: [samplePort('10.20.40.99', { id: 'EM-port' })] }
  test.each<[CheckId, string, Job, readonly SettingFact[], string]>([
    ['reached-planned', 'another planned address', job(moved), [], 'EM'],
    ['reached-planned', 'plant instead of bench', job({}, { mode: 'plant' }), [], 'EM'],
    ['reached-planned', 'another port', job({ ports: [samplePort('10.20.40.50', { tcpPort: 503 })] }), [], 'EM'],
    ['firmware', 'another version asked for', job({ firmwareNeeded: '9', firmwareRelation: 'at-least' }), [], 'EM'],
    ['order-code', 'another order code planned', job({ orderCode: 'X' }), [], 'EM'],
    ['names-equal', 'another name planned', job({ hostName: 'em-2' }), [], 'EM'],
    ['names-equal', 'another name read', job(), [fact('EM', 'name in server', 'em-9')], 'EM'],
    ['mac-known', 'another label', job(), [fact('EM', 'mac', '02:5E:0B:10:7C:99')], 'EM'],
    [
      'units-behind',
      'a unit more behind it',
      job({}, { devices: [...job().devices, sampleDevice('FM-2', null, { behindId: 'EM' })] }),
      [],
      'EM',
    ],
    [
      'served-verified',
      'another unit planned',
      job(
        {},
        {
          devices: [
            meter({ hostName: 'em', namePlaces: [{ where: 'server', text: 'em' }] }),
            sampleDevice('FM', null, { ports: [], behindId: 'EM', unitId: 4 }),
          ],
        },
      ),
      [],
      'EM',
    ],
    ['text-arrives', 'another text port', job({ textPort: 4001 }), [], 'EM'],
    ['relay-firmware', 'another firmware of what it hangs on', job({ firmwareFound: '1' }), [], 'FM'],
    ['identified', 'power at one that has its address', job(), [fact('EM', 'address', '10.20.40.51')], 'EM'],
  ])('%s falls with %s', (check, _what, after, facts, deviceId) => {
    const step = passed(check, job(), [], deviceId)
    expect(standsAfter(step, after, facts)).toBe('unexpected')
    expect(asItStands(after, walk(facts, { steps: [step] }), step).note).toMatch(
      /^Passed before; .* since\. Check it again\.$/,
    )
  })

  test('with a device that is gone it falls; what an older program did not keep is not held against it', () => {
    const step = passed('reached-planned', job())
    expect(standsAfter(step, job({}, { devices: [] }))).toBe('unexpected')
    expect(standsAfter({ ...step, rests: null }, job(moved))).toBe('done')
    expect(changedSince(job(moved), blankWalk, { check: 'reached-planned', devices: 'EM' })).toBeUndefined()
    expect(changedSince(job(moved), blankWalk, { check: 'oracle', devices: 'EM' })).toBeUndefined()
  })

  test('what is of the moment is over once something after it in its stop was done', () => {
    const step = passed('identified', job())
    const set = { ...step, id: 't', stepKey: 'set EM 1 / EM address', at: 6, rests: null }
    const elsewhere = [fact('EM', 'address', '10.20.40.51')]
    const after = (...steps: readonly StepRecord[]) =>
      asItStands(job(), walk(elsewhere, { steps: [step, ...steps] }), step).state
    expect(after()).toBe('unexpected')
    expect(after(set)).toBe('done')
    expect(after({ ...set, at: 4 })).toBe('unexpected')
    expect(after({ ...set, stepKey: 'set UPS 1 / UPS address' })).toBe('unexpected')
  })

  test('the gateway and the mask belong to the address', () => {
    const step = passed('reached-planned', job())
    const other = job({}, { networks: [{ ...job().networks[0], ...network, cidr: '10.20.0.0/16' } as never] })
    expect(standsAfter(step, other)).toBe('unexpected')
  })
})
