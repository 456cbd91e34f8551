import { ipv4, prefixLength } from '../address'
import { sampleDevice, sampleJob } from '../job/fixtures'
import { shippedKinds, waysOfSetting } from '../kind'
import { replayed } from '../sequence/fixtures/replay'
import {
  comparePictures,
  readFieldList,
  blankWalk,
  bringUpJobOf,
  consequencesOf,
  fieldsOf,
  filled,
  heldBackBy,
  isSettled,
  judgeSweep,
  laptopTexts,
  nothingAnswers,
  phases,
  planWalk,
  presentOf,
  refusedNote,
  runFits,
  runFor,
  runOfDevice,
  shippedRuns,
  startUpOf,
  unknownFields,
  walkOf,
  wayIn,
  type LaptopState,
  type RunStep,
  type StepRecord,
  type WalkRecord,
} from '.'
import { recordOf } from './fixtures'

const drive = (tag: string, address: string, more = {}) =>
  sampleDevice(tag, address, { kind: 'drive', asFound: '192.168.1.20', isolation: `Q ${tag}`, ...more })
const twins = sampleJob({ devices: [drive('PD-101', '10.20.40.21'), drive('PD-102', '10.20.40.22')] })
const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]

const planned = (job: typeof twins, record: WalkRecord = blankWalk) => {
  const given = bringUpJobOf(job, record, laptop)
  const plan = planWalk(given, [], [], 1)
  if (!('answer' in plan)) throw new Error('no order')
  return { given, plan, stops: walkOf(job, record, plan.answer.actions, given) }
}

describe('the runs that ship', () => {
  const texts = (step: RunStep): readonly string[] => [
    step.say,
    step.why ?? '',
    ...(step.type ?? []),
    ...(step.normal ?? []),
    ...(step.otherwise ?? []).flatMap(({ saw, likely, check }) => [saw, likely, check]),
    ...(step.choices ?? []).flatMap(({ say, then }) => [say, then]),
  ]

  test.each(shippedRuns.map((run) => [run.id, run] as const))(
    '%s warns before it powers, writes or wires',
    (_id, run) => {
      const warned = new Set<string>()
      for (const phase of phases)
        for (const step of run.steps.filter((each) => each.phase === phase)) {
          step.covers?.forEach((act) => warned.add(act))
          for (const act of step.acts ?? [])
            expect({ step: step.id, act, warned: warned.has(act) }).toEqual({ step: step.id, act, warned: true })
        }
    },
  )

  test.each(shippedRuns.map((run) => [run.id, run] as const))(
    '%s names only fields that a job has, kinds and ways that are there',
    (_id, run) => {
      expect(run.steps.flatMap(texts).flatMap(unknownFields)).toEqual([])
      expect(run.kinds.filter((kind) => !shippedKinds.some((each) => each.id === kind))).toEqual([])
      expect(run.ways.filter((way) => !(way in waysOfSetting))).toEqual([])
      expect(new Set(run.steps.map((step) => step.id)).size).toBe(run.steps.length)
    },
  )

  test('there is one for every kind that ships, and it fits that kind', () => {
    for (const kind of shippedKinds) {
      const run = runFor(kind.id, kind.setting, shippedRuns)
      expect({ kind: kind.id, fits: run && runFits(run, kind.id, kind.setting) }).toEqual({ kind: kind.id, fits: true })
    }
  })

  test('what the swap of a supervisory controller insists on comes in its order', () => {
    const run = shippedRuns.find((each) => each.id === 'supervisory-swap')
    const at = (id: string) => run?.steps.findIndex((step) => step.id === id) ?? -1
    for (const [earlier, later] of [
      ['before-picture', 'trunk-out'],
      ['backup-untouched', 'two-backups'],
      ['backup-archive', 'two-backups'],
      ['two-backups', 'old-off'],
      ['starts', 'log-in'],
      ['log-in', 'password'],
      ['password', 'policy'],
      ['policy', 'name'],
      ['name', 'restart'],
      ['restart', 'restarted'],
      ['restarted', 'old-entry'],
      ['old-entry', 'server'],
      ['server', 'paired'],
      ['paired', 'version-read'],
      ['version-read', 'version'],
      ['version', 'backup-upgraded'],
      ['backup-upgraded', 'load'],
      ['load', 'loaded'],
      ['load', 'trunk-in'],
      ['trunk-in', 'returned'],
      ['returned', 'way-back'],
    ] as const) {
      expect(at(earlier)).toBeGreaterThanOrEqual(0)
      expect({ earlier, later, holds: at(earlier) < at(later) }).toEqual({ earlier, later, holds: true })
    }
  })
})

describe('the walk', () => {
  test('powers one twin, sets it, cycles it, and only then the other; the order it is walked in can be followed', () => {
    const { given, plan, stops } = planned(twins)
    expect(replayed(given, plan.answer.actions)).toEqual([])
    const titles = stops.map((stop) => stop.title)
    const at = (title: string) => titles.indexOf(title)
    expect(at('Take Q PD-101 off: PD-101')).toBeGreaterThan(at('Set PD-101 to 10.20.40.21'))
    expect(at('Put Q PD-102 on: PD-102')).toBeGreaterThan(at('Take Q PD-101 off: PD-101'))
    expect(stops[0]?.reason).toBe('PD-102 stays unpowered: it has the same address as PD-101, 192.168.1.20.')
  })

  test('keeps the order followable in time, for one person and for two, with many devices', () => {
    const devices = Array.from({ length: 14 }, (_, n) =>
      sampleDevice(`D-${n}`, `10.20.40.${20 + n}`, {
        kind: ['drive', 'meter', 'drive-web', 'ups-card'][n % 4] ?? 'drive',
        asFound: ['192.168.1.20', '192.168.66.70', `192.168.66.${30 + n}`, '192.168.66.20'][n % 4] ?? '',
        isolation: `Q${n}`,
      }),
    )
    const given = bringUpJobOf(sampleJob({ devices }), blankWalk, laptop)
    for (const people of [1, 2] as const) {
      const plan = planWalk(given, [], [], people)
      if (!('answer' in plan)) throw new Error('no order')
      expect(replayed(given, plan.answer.actions)).toEqual([])
      expect(plan.schedule.finish).toBeLessThan(plan.sequential ?? 0)
      expect([...plan.schedule.starts].sort((a, b) => a - b)).toEqual(plan.schedule.starts)
    }
  })

  test('gives every step a key of its own, and the same key when it is planned again with more devices', () => {
    const { stops } = planned(twins)
    const keys = stops.flatMap((stop) => stop.steps.map((step) => step.key))
    expect(new Set(keys).size).toBe(keys.length)
    const more = planned({ ...twins, devices: [...twins.devices, drive('PD-103', '10.20.40.23')] })
    const moreKeys = new Set(more.stops.flatMap((stop) => stop.steps.map((step) => step.key)))
    expect(keys.filter((key) => !moreKeys.has(key))).toEqual([])
  })

  test('holds back what comes after a step that protects, until it is done', () => {
    const { given, plan, stops } = planned(twins)
    const stop = stops[0]
    const last = stop?.steps.at(-1)
    if (!stop || !last) throw new Error('no stop')
    expect(heldBackBy(stop, last.key)?.step.kind).toBe('caution')
    const steps = stop.steps.filter((step) => step.blocks).map((step) => recordOf(step.key))
    const later = walkOf(twins, { ...blankWalk, steps }, plan.answer.actions, given)[0]
    expect(later && heldBackBy(later, last.key)).toBeUndefined()
    expect(later?.state).toBe('begun')
  })

  test('what is done becomes facts: power, entered, in force, verified, each by itself', () => {
    const { stops } = planned(twins)
    const facts = (title: string, id: string) => {
      const stop = stops.find((each) => each.title === title)
      const step = stop?.steps.find((each) => each.step.id === id)
      if (!stop || !step) throw new Error(`${title} ${id}`)
      return consequencesOf(twins, stop, step, '').facts.map((fact) => `${fact.setting} ${fact.standing} ${fact.text}`)
    }
    expect(facts('Put Q PD-101 on: PD-101', 'on')).toEqual(['power in-force on'])
    expect(facts('Set PD-101 to 10.20.40.21', 'octets')).toEqual(['address entered 10.20.40.21'])
    expect(facts('Find PD-101 again', 'find-again')).toEqual([
      'address in-force 10.20.40.21',
      'address verified 10.20.40.21',
    ])
  })

  test('goes on from facts: what was entered waits for power, what is in force is not set again', () => {
    const [pd1] = twins.devices
    const fact = {
      id: 'f',
      deviceId: pd1?.id ?? '',
      setting: 'address',
      how: 'typed',
      who: 'R. Osei',
      text: '10.20.40.21',
    } as const
    const entered: WalkRecord = {
      ...blankWalk,
      facts: [
        { ...fact, standing: 'entered', at: 2 },
        { ...fact, setting: 'power', standing: 'in-force', text: 'on', at: 1 },
      ],
    }
    expect(
      planned(twins, entered)
        .plan.answer.actions.slice(0, 2)
        .map((action) => action.kind),
    ).toEqual(['group-off', 'group-on'])
    const inForce: WalkRecord = { ...entered, facts: [...entered.facts, { ...fact, standing: 'in-force', at: 3 }] }
    const { plan } = planned(twins, inForce)
    expect(plan.answer.actions.some((action) => action.kind === 'set' && action.deviceId === pd1?.id)).toBe(false)
    expect(pd1 && presentOf(twins, inForce, pd1)?.address).toBe(ipv4('10.20.40.21'))
  })

  test('leaves out who cannot be walked, says why, and walks the rest', () => {
    const job = sampleJob({
      devices: [
        drive('PD-101', '10.20.40.21'),
        sampleDevice('RIO-111', '10.20.40.30', { kind: 'remote-io', asFound: 'no address yet' }),
      ],
    })
    const { plan } = planned(job)
    expect(plan.leftOut.map((each) => each.why)).toEqual(['RIO-111 is set over IP and has no address yet.'])
    expect(
      plan.answer.actions.some((action) => action.kind === 'verify' && action.deviceId === job.devices[0]?.id),
    ).toBe(true)
  })

  test('a run chosen for a device counts only while it fits its kind', () => {
    const [pd1] = twins.devices
    if (!pd1) throw new Error('no device')
    const chosen = (run: string): WalkRecord => ({
      ...blankWalk,
      settings: { ...blankWalk.settings, runs: { [pd1.id]: run } },
    })
    expect(runOfDevice(twins, chosen('supervisory-swap'), pd1)?.id).toBe('keypad-address')
    const meter = sampleDevice('M', '10.20.40.40', { kind: 'meter' })
    const job = sampleJob({ devices: [meter] })
    const record = { ...blankWalk, settings: { ...blankWalk.settings, runs: { [meter.id]: 'second-meter' } } }
    expect(runOfDevice(job, record, meter)?.id).toBe('second-meter')
  })

  test('a step is settled by done, an override or parking, not by waiting or by something else', () => {
    const { stops } = planned(twins)
    const step = stops[0]?.steps[0]
    if (!step) throw new Error('no step')
    const settledBy = (state: StepRecord['state']) => isSettled({ ...step, record: recordOf(step.key, state) })
    expect([settledBy('done'), settledBy('overridden'), settledBy('parked')]).toEqual([true, true, true])
    expect([settledBy('waiting'), settledBy('unexpected')]).toEqual([false, false])
  })
})

describe('start-up times', () => {
  const [pd1, pd2] = twins.devices
  const measured = (deviceId: string, text: string): WalkRecord => ({
    ...blankWalk,
    facts: [
      {
        id: 'f',
        deviceId,
        setting: 'start-up',
        standing: 'verified',
        text,
        how: 'read-live',
        who: 'Calm Handshake',
        at: 1,
      },
    ],
  })

  test('what one drive took on the plant is what the next is given; the bench teaches nothing', () => {
    if (!pd1 || !pd2) throw new Error('two devices')
    const plant = { ...twins, mode: 'plant' as const }
    expect(startUpOf(plant, blankWalk, pd2)).toBe(25)
    expect(startUpOf(plant, measured(pd1.id, '41.2 s'), pd2)).toBe(42)
    expect(startUpOf({ ...twins, mode: 'bench' }, measured(pd1.id, '41.2 s'), pd2)).toBe(25)
  })
})

describe('what is filled in', () => {
  const [pd1] = twins.devices
  const fields = pd1 ? fieldsOf(twins, pd1, { address: ipv4('192.168.1.20'), prefix: prefixLength(24) }, 25) : {}

  test('addresses in the form in which they are typed', () => {
    expect(filled('{padded} {lastOctet} {mask} {presentSubnet}', fields)).toBe(
      '010.020.040.021 21 255.255.255.0 192.168.1.0/24',
    )
    expect(filled('{octal}', fields)).toBe('25')
  })

  test('what is not planned is said, and what nobody knows stays as it stands', () => {
    expect(filled('{mac}', fields)).toBe('(hardware address: not planned)')
    expect(filled('{nonsense}', fields)).toBe('{nonsense}')
    expect(unknownFields('{tag} {nonsense}')).toEqual(['nonsense'])
  })

  test('the way in leg by leg, nearest first', () => {
    const server = sampleDevice('SC-701', '10.20.40.80')
    const reader = { ...sampleDevice('BS-701', '10.20.40.81'), ports: [], behindId: server.id }
    expect(wayIn(sampleJob({ devices: [server, reader] }), reader)).toEqual(['SC-701 10.20.40.80', 'BS-701'])
  })

  test('commands for the laptop carry address and mask, and how to put it back', () => {
    const texts = laptopTexts({ address: ipv4('192.168.1.5'), prefix: prefixLength(24) }, 'eth0')
    expect(texts.map((text) => text.system)).toEqual(['Windows', 'macOS', 'Linux'])
    expect(texts[0]?.set[0]).toContain('192.168.1.5 255.255.255.0')
    expect(texts[2]?.putBack[0]).toBe('sudo ip addr del 192.168.1.5/24 dev eth0')
  })

  test('what is written down is read before it is taken', () => {
    const { stops } = planned(twins)
    const step = stops.flatMap((stop) => stop.steps).find((each) => each.step.record === 'serial-number')
    if (!step) throw new Error('no record step')
    expect(refusedNote(step, ' ')?.what).toBe('Nothing is written down.')
    expect(refusedNote(step, 'S4 7C11')).toBeUndefined()
    expect(refusedNote({ ...step, step: { ...step.step, record: 'mac' } }, '02:5E:0B:1O:7C:l4')?.expected).toContain(
      'twelve',
    )
    expect(refusedNote({ ...step, step: { ...step.step, record: 'unit-id' } }, 'one')?.what).toBe(
      '"one" is not a number.',
    )
  })
})

describe('why nothing answers', () => {
  const adapter = { name: 'eth0', address: '10.20.40.5', prefix: 24, link: true, wireless: false, loopback: false }
  const state = (change: Partial<LaptopState> = {}): LaptopState => ({
    interfaces: [adapter],
    neighbours: [],
    notes: [],
    ...change,
  })
  const seen = {
    address: '10.20.40.21',
    port: 502,
    connection: 'silent',
    securePort: 'silent',
    identity: null,
    expectedIdentity: 'PD-101',
  } as const
  const likely = (laptopState: LaptopState, change: object = {}) =>
    nothingAnswers(laptopState, { ...seen, ...change })
      .filter((cause) => cause.verdict === 'likely')
      .map((cause) => cause.id)

  test.each([
    ['no link', state({ interfaces: [{ ...adapter, link: false }] }), {}, 'link'],
    ['no interface up', state({ interfaces: [] }), {}, 'link'],
    ['not in its subnet', state({ interfaces: [{ ...adapter, address: '192.168.1.5' }] }), {}, 'subnet'],
    ['no hardware address heard', state(), {}, 'hardware-address'],
    ['it answers, the port is closed', state(), { connection: 'refused' }, 'port'],
    ['right port, other identity', state(), { connection: 'open', identity: 'VD-075, PD-102' }, 'identity'],
    ['the page wants the secure scheme', state(), { connection: 'refused', securePort: 'open' }, 'secure'],
    [
      'wireless takes the way',
      state({ interfaces: [adapter, { ...adapter, name: 'wlan0', wireless: true }] }),
      {},
      'wireless',
    ],
  ] as const)('%s', (_words, laptopState, change, id) => {
    expect(likely(laptopState, change)).toContain(id)
  })

  test('a neighbour table that cannot be read is asked of a person, not guessed', () => {
    const causes = nothingAnswers(state({ neighbours: null }), seen)
    expect(causes.find((cause) => cause.id === 'hardware-address')).toMatchObject({ verdict: 'ask' })
  })
})

describe('who is there', () => {
  test('answers are told apart: as planned, silent, unknown, twice, still at the old address', () => {
    const answer = (address: string, identities: readonly string[] = []) => ({
      address,
      ports: [502],
      identities,
      hardwareAddress: null,
    })
    const lines = judgeSweep(
      twins,
      blankWalk,
      [answer('10.20.40.21', ['VD-110']), answer('10.20.40.77'), answer('192.168.1.20', ['VD-110', 'VD-075'])],
      () => true,
    )
    expect(lines.map((line) => [line.address, line.verdict])).toEqual([
      ['10.20.40.21', 'expected'],
      ['10.20.40.22', 'silent'],
      ['10.20.40.77', 'unknown'],
      ['192.168.1.20', 'twice'],
    ])
    const [old] = judgeSweep(twins, blankWalk, [answer('192.168.1.20', ['VD-110'])], () => false)
    expect(old).toMatchObject({ verdict: 'still-old', tags: ['PD-101', 'PD-102'] })
  })

  test('a picture afterwards tells new faults from old ones, and names what nobody looked at', () => {
    const picture = (answers: Readonly<Record<string, boolean | null>>) => ({
      at: 1,
      notes: [],
      devices: Object.entries(answers).map(([tag, is]) => ({ tag, answers: is, identity: '' })),
    })
    const { differences, compared, of } = comparePictures(
      picture({ A: true, B: true, C: false, D: false, E: true }),
      picture({ A: true, B: false, C: false, D: true, E: null }),
    )
    expect(differences.map((each) => [each.tag, each.kind])).toEqual([
      ['B', 'new-fault'],
      ['C', 'old-fault'],
      ['D', 'better'],
      // What nobody looked at is named as such.
      ['E', 'not-seen'],
    ])
    expect([compared, of]).toEqual([4, 5])
  })

  test('a list of field devices that was not taken again is not compared; one that is gone is a new fault', () => {
    const before = { at: 1, notes: [], devices: [], fieldDevices: readFieldList('VAV 1\tok\nVAV 2\tfault').devices }
    expect(comparePictures(before, { at: 2, notes: [], devices: [] })).toMatchObject({
      compared: 0,
      of: 2,
      differences: [
        { tag: 'VAV 1', kind: 'not-seen' },
        { tag: 'VAV 2', kind: 'not-seen' },
      ],
    })
    const after = { at: 2, notes: [], devices: [], fieldDevices: readFieldList('vav-2\tok\nVAV 3\tok').devices }
    expect(comparePictures(before, after)).toMatchObject({
      compared: 2,
      of: 3,
      differences: [
        { tag: 'VAV 1', kind: 'new-fault' },
        { tag: 'vav-2', kind: 'better' },
        { tag: 'VAV 3', kind: 'added' },
      ],
    })
  })
})
