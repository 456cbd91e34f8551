import { ipv4, prefixLength } from '../address'
import type { Device, Job } from '../job'
import { openLine, sampleDevice, sampleHandshake, sampleJob, sampleLine, samplePort } from '../job/fixtures'
import {
  blankWalk,
  checkIds,
  comparePictures,
  LISTED_DEVICES,
  listedNodesOf,
  markedAgainst,
  NAME_IN,
  PLUG_SHOWS,
  PROJECT_CODE,
  rackOf,
  readFieldList,
  readRackList,
  type CheckId,
  type LaptopState,
  type Picture,
  type PicturedValue,
  type SettingFact,
} from '../procedure'
import {
  backups,
  controllerSees,
  firmware,
  identified,
  judgeAnswers,
  judgeBefore,
  judgeGone,
  judgeLaptop,
  judgeReached,
  judgeReturned,
  judgeText,
  judgeRow,
  judgeUnits,
  macKnown,
  namesEqual,
  nodesListed,
  orderCode,
  rackCodes,
  relayFirmware,
  servedVerified,
  showsPlanned,
  threeFacts,
  type CheckResult,
  type SeenAt,
  type Written,
} from '.'
import { judged, agrees, differs, notKnown } from './model'

const meter = (more: Partial<Device> = {}) =>
  sampleDevice('EM-501', '10.20.40.50', { asFound: '192.168.1.20', ...more })
const drive = (tag: string, address: string) => sampleDevice(tag, address, { kind: 'drive', asFound: '192.168.1.20' })
const fact = (setting: string, text: string, more: Partial<SettingFact> = {}): SettingFact => ({
  id: `${setting} ${text} ${more.deviceId ?? ''}`,
  deviceId: 'EM-501',
  setting,
  standing: 'found',
  text,
  how: 'seen',
  who: 'R. Osei',
  at: 1,
  ...more,
})
const about = (device: Device, facts: readonly SettingFact[] = [], others: readonly Device[] = []): Written => {
  const job: Job = sampleJob({ devices: [device, ...others] })
  return { job, device, record: { ...blankWalk, facts } }
}
const said = (...parts: readonly string[]) => ({
  text: parts.join(', '),
  productCode: parts[1] ?? '',
  revision: parts[2] ?? '',
  parts,
})
const seen = (more: Partial<SeenAt> = {}): SeenAt => ({
  address: '10.20.40.50',
  ports: [{ port: 502, connection: 'open' }],
  identities: [said('Sample maker', 'EM-3F', '2.3')],
  hardwareAddress: null,
  canSee: true,
  hasLink: true,
  ...more,
})
const silent = { ports: [{ port: 502, connection: 'silent' as const }], identities: [] }
const laptop = (address: string): LaptopState => ({
  interfaces: [{ name: 'eth0', address, prefix: 24, link: true, wireless: false, loopback: false }],
  neighbours: [],
  notes: [],
})
const picture = (at: number, devices: Picture['devices'], list?: string): Picture => ({
  at,
  devices,
  notes: [],
  ...(list !== undefined && { fieldDevices: readFieldList(list).devices }),
})
/** Pictures are of moment 1 and 4; between them something was changed. */
const changed = { first: 2, last: 3 }
const now = { now: 2, changedAt: undefined }
const shown = (tag: string, answers: boolean | null, identity = 'X') => ({ tag, answers, identity })

/** A controller with a module in each slot: what the labels say, what the project has; blank where not known. */
function rack(labels: readonly string[], project: readonly string[]): Written {
  const node = (id: string, number: number) => ({
    id: `${id} node`,
    lineId: 'plane',
    name: '',
    node: number,
    isMaster: number === 0,
    position: 0,
    version: 1,
  })
  const head = sampleDevice('PLC-1', '10.20.40.10', { orderCodeFound: 'CP-4', nodes: [node('PLC-1', 0)] })
  const modules = labels.map((orderCodeFound, k) =>
    sampleDevice(`M-${k + 1}`, null, { ports: [], orderCodeFound, nodes: [node(`M-${k + 1}`, k + 1)] }),
  )
  const facts = project.flatMap((code, k) =>
    code === '' ? [] : [fact(PROJECT_CODE, code, { deviceId: `M-${k + 1}` })],
  )
  const line = {
    id: 'plane',
    name: 'Rack',
    medium: 'backplane' as const,
    family: 'decimal-0-63',
    ...openLine,
    version: 1,
  }
  const job: Job = sampleJob({ devices: [head, ...modules], lines: [line] })
  return {
    job,
    device: head,
    record: { ...blankWalk, facts: [...facts, fact(PROJECT_CODE, 'CP-4', { deviceId: 'PLC-1' })] },
  }
}

describe('a rack', () => {
  const verdict = (labels: readonly string[], project: readonly string[]) => rackCodes(rack(labels, project))
  test('counts its slots, the head among them', () => {
    expect(verdict(['DI-16', 'DO-08'], ['DI-16', 'DO-08'])).toMatchObject({ verdict: 'passed', compared: 3, of: 3 })
  })
  test('two codes that are exchanged are named as such', () => {
    expect(verdict(['DO-08', 'DI-16'], ['DI-16', 'DO-08'])).toMatchObject({
      verdict: 'failed',
      say: 'Slot 1 and slot 2 are exchanged: M-1 and M-2. 3 of 3 compared.',
    })
  })
  test('a third slot with the codes of an exchanged pair is named too', () => {
    const { say } = verdict(['Y', 'X', 'X'], ['X', 'Y', 'Y'])
    expect(say).toContain('Slot 1 and slot 2 are exchanged')
    expect(say).toContain('Slot 3 and slot 1 are exchanged')
  })
  test('the whole code counts, and the place where it differs is told', () => {
    expect(verdict(['DI-16', 'DO-08/2'], ['DI-16', 'DO-08/1'])).toMatchObject({
      verdict: 'failed',
      say: expect.stringContaining('They differ at character 7'),
    })
  })
  test('a slot of which label or project is not known is not compared, and the rack not passed', () => {
    expect(verdict(['DI-16', ''], ['DI-16', 'DO-08'])).toMatchObject({ verdict: 'not-conclusive', compared: 2, of: 3 })
    expect(verdict(['DI-16', 'DO-08'], ['DI-16', ''])).toMatchObject({ verdict: 'not-conclusive', compared: 2, of: 3 })
  })

  test('a list is read slot by slot; a line that cannot be is told with its number', () => {
    const { job, record, device } = rack(['', ''], ['', ''])
    const slots = rackOf(job, record, device)
    const read = (text: string) => {
      const { codes, problems } = readRackList(text, slots)
      return { codes: codes.map((each) => `${each.device.tag} ${each.code}`), problems }
    }
    expect(read('Slot\tOrder code\n1\tDI-16\n02; DO-08;8 outputs\n')).toEqual({
      codes: ['M-1 DI-16', 'M-2 DO-08'],
      problems: [],
    })
    expect(read('1\tDI-16\n1\tDI-32\n7\tAO-4\n2\t\nlast').problems).toEqual([
      'Line 2: slot 1 stands in the list twice. The first counts.',
      'Line 3: slot 7 is not planned in this rack.',
      'Line 4: slot 2 has no order code.',
      'Line 5: "last" is no slot. Expected: a number, then an order code.',
    ])
    expect(read('')).toEqual({ codes: [], problems: [] })
  })

  test('letters that differ are marked; against nothing nothing is', () => {
    expect(markedAgainst('DI-16A', 'DI-18A')).toEqual([
      { text: 'DI-1', differs: false },
      { text: '6', differs: true },
      { text: 'A', differs: false },
    ])
    expect(markedAgainst('DI-16/2', 'DI-16')).toEqual([
      { text: 'DI-16', differs: false },
      { text: '/2', differs: true },
    ])
    expect(markedAgainst('DI-16', '')).toEqual([{ text: 'DI-16', differs: false }])
  })
})

describe('silent where it was said to be', () => {
  const there = (more: Partial<SeenAt> = {}) => seen({ address: '10.20.40.21', ...more })
  test('the planned address is looked at as well, and what was seen there is told', () => {
    expect(judgeAnswers(seen(silent), there())).toMatchObject({
      verdict: 'failed',
      compared: 2,
      of: 2,
      say: expect.stringContaining('At its planned address, 10.20.40.21, somebody answers'),
    })
    expect(judgeAnswers(seen(silent), there(silent)).say).toMatch(
      /Nor does anything at 10\.20\.40\.21, as planned\. 2 of 2/,
    )
    const unseen = judgeAnswers(seen(silent), there({ ...silent, canSee: false }))
    expect(unseen).toMatchObject({ verdict: 'failed', compared: 1, of: 2 })
    expect(unseen.say).toContain('the laptop cannot see from where it is')
  })
  test('where it answers, or nobody could have seen it, the planned address says nothing', () => {
    expect(judgeAnswers(seen(), there()).verdict).toBe('passed')
    expect(judgeAnswers(seen({ ...silent, canSee: false }), there()).verdict).toBe('not-conclusive')
  })
})

/** What its serial menu showed at moment 6, where nothing else is said what is planned. */
const menuShows = (more: Readonly<Record<string, string>>) =>
  Object.entries({ address: '10.20.40.50', mask: '255.255.255.0', gateway: '10.20.40.1', ...more })
    .filter(([, text]) => text !== '')
    .map(([setting, text]) => fact(setting, text, { how: 'read-live', at: 6 }))

/** The same, after a wait of its restart that ended later than it was read. */
const afterWait = ({ record, ...rest }: Written): Written => {
  const wait = { startedAt: 6, seconds: 1, watch: null, oldAddress: '', newAddress: '', port: 502 }
  const ended = { ...wait, seenGoneAt: null, backAt: null, triesAfter: 0, rangAt: 7 }
  const key = 'set EM-501 1 / EM-501 restart'
  const step = { id: key, stepKey: key, state: 'done', note: '', who: 'R. Osei', at: 7, version: 1 } as const
  return { ...rest, record: { ...record, steps: [{ ...step, wait: ended, rests: null }] } }
}

/** An axis that asks a firmware of its controller, which has 2.1. */
const axisAsking = (firmwareNeeded: string): Written =>
  about(meter({ behindId: 'MC-1', firmwareNeeded }), [], [sampleDevice('MC-1', null, { firmwareFound: '2.1' })])

/** A device on node 1 of a line, behind a controller whose search listed this. */
const nodeListed = (list: string): Written => {
  const node = { id: 'n', lineId: 'L', name: '', node: 1, isMaster: false, position: 0, version: 1 }
  const written = about(meter({ behindId: 'MC-1', nodes: [node] }), [
    fact(listedNodesOf({ ...meter(), nodes: [node] }), list, { deviceId: 'MC-1' }),
  ])
  return { ...written, job: { ...written.job, lines: [sampleLine()] } }
}

const ofServed = { deviceId: 'EM-502' }
/** A device that talks to EM-502. */
const serving = (facts: readonly SettingFact[]): Written => {
  const written = about(meter(), facts, [sampleDevice('EM-502', '10.20.40.51')])
  return { ...written, job: { ...written.job, handshakes: [sampleHandshake('EM-501', 'EM-502')] } }
}

interface Cases {
  readonly passes: () => CheckResult
  readonly fails: (() => CheckResult) | 'never'
  readonly nothing: () => CheckResult
}

/** Every check has a case where it passes, one where it fails, and one where there is nothing to compare. */
const catalogue: Readonly<Record<CheckId, Cases>> = {
  'reached-planned': {
    passes: () => judgeReached(about(meter({ orderCode: 'EM-3F-E' })), seen()),
    fails: () => judgeReached(about(meter()), seen(silent)),
    nothing: () => judgeReached(about(meter()), seen()),
  },
  'reached-present': {
    passes: () => judgeAnswers(seen()),
    fails: () => judgeAnswers(seen(silent)),
    nothing: () => judgeAnswers(undefined),
  },
  'gone-from-present': {
    passes: () => judgeGone(seen(silent)),
    fails: () => judgeGone(seen()),
    nothing: () => judgeGone(undefined),
  },
  'laptop-in-subnet': {
    passes: () => judgeLaptop(laptop('192.168.1.5'), { address: ipv4('192.168.1.20'), prefix: prefixLength(24) }),
    fails: () => judgeLaptop(laptop('10.20.40.5'), { address: ipv4('192.168.1.20'), prefix: prefixLength(24) }),
    nothing: () => judgeLaptop(laptop('10.20.40.5'), undefined),
  },
  'order-code': {
    passes: () => orderCode(about(meter({ orderCode: 'PM-3C-E', orderCodeFound: 'PM-3C-E' }))),
    fails: () => orderCode(about(meter({ orderCode: 'PM-3C-E', orderCodeFound: 'PM-3O-E' }))),
    nothing: () => orderCode(about(meter({ orderCode: 'PM-3C-E' }))),
  },
  firmware: {
    passes: () =>
      firmware(about(meter({ firmwareRelation: 'at-least', firmwareFound: '1.10', firmwareNeeded: '1.9' }))),
    fails: () => firmware(about(meter({ firmwareRelation: 'at-least', firmwareFound: '1.8', firmwareNeeded: '1.9' }))),
    nothing: () => firmware(about(meter({ firmwareRelation: 'any', firmwareFound: '1.8' }))),
  },
  'names-equal': {
    passes: () => namesEqual(named('em-1', 'em-1')),
    fails: () => namesEqual(named('em-1', 'em-l')),
    nothing: () => namesEqual(named()),
  },
  'mac-known': {
    passes: () => macKnown(about(withMac('02:5E:0B:10:7C:11'), [fact('mac', '02:5E:0B:10:7C:11')])),
    fails: () => macKnown(about(withMac('02:5E:0B:10:7C:11'), [fact('mac', '02:5E:0B:10:7C:14')])),
    nothing: () => macKnown(about(withMac('02:5E:0B:10:7C:11'))),
  },
  identified: {
    passes: () =>
      identified(
        about(
          drive('PD-1', '10.20.40.21'),
          [fact('power', 'off', { deviceId: 'PD-2' })],
          [drive('PD-2', '10.20.40.22')],
        ),
      ),
    fails: () =>
      identified(
        about(
          drive('PD-1', '10.20.40.21'),
          [fact('power', 'on', { deviceId: 'PD-2' })],
          [drive('PD-2', '10.20.40.22')],
        ),
      ),
    nothing: () => identified(about(drive('PD-1', '10.20.40.21'))),
  },
  'rack-codes': {
    passes: () => rackCodes(rack(['DI-16', 'DO-08'], ['DI-16', 'DO-08'])),
    fails: () => rackCodes(rack(['DI-16', 'DO-08'], ['DI-16', 'DO-8'])),
    nothing: () => rackCodes(about(meter())),
  },
  'row-answers': {
    passes: () =>
      judgeRow({
        units: [
          { tag: 'MM-1', unit: 1, identity: '', orderCode: '' },
          { tag: 'MM-2', unit: 2, identity: '', orderCode: '' },
        ],
        next: { unit: 3, answers: false },
      }),
    fails: () => judgeRow({ units: [{ tag: 'MM-1', unit: 1, identity: undefined, orderCode: '' }], next: undefined }),
    nothing: () => judgeRow({ units: [], next: undefined }),
  },
  'units-behind': {
    passes: () => judgeUnits([{ tag: 'FM-1', unit: 1, identity: '' }]),
    fails: () => judgeUnits([{ tag: 'FM-1', unit: 1, identity: undefined }]),
    nothing: () => judgeUnits([]),
  },
  'shows-planned': {
    passes: () => showsPlanned(about(meter(), menuShows({}))),
    fails: () => showsPlanned(about(meter(), menuShows({ address: '10.20.40.99' }))),
    nothing: () => showsPlanned(afterWait(about(meter(), menuShows({})))),
  },
  'relay-answers': {
    passes: () => judgeAnswers(seen()),
    fails: () => judgeAnswers(seen(silent)),
    nothing: () => judgeAnswers(undefined),
  },
  'relay-firmware': {
    passes: () => relayFirmware(axisAsking('2.0')),
    fails: () => relayFirmware(axisAsking('2.10')),
    nothing: () => relayFirmware(axisAsking('')),
  },
  'nodes-listed': {
    passes: () => nodesListed(nodeListed('1'), [nodeListed('1').device], 1),
    fails: () => nodesListed(nodeListed('2'), [nodeListed('2').device], 1),
    nothing: () => nodesListed(nodeListed('1'), [nodeListed('1').device], 2),
  },
  'served-verified': {
    passes: () => servedVerified(serving([fact('address', '10.20.40.51', { ...ofServed, standing: 'verified' })])),
    fails: () => servedVerified(serving([])),
    nothing: () => servedVerified(about(meter())),
  },
  'controller-sees': {
    passes: () => controllerSees(serving([fact(LISTED_DEVICES, 'EM-502; ok')]), 0),
    fails: () => controllerSees(serving([fact(LISTED_DEVICES, 'EM-503; ok')]), 0),
    nothing: () => controllerSees(serving([]), 0),
  },
  'text-arrives': {
    passes: () => judgeText({ relay: 'SC-701', port: 4001, came: 'BAG 17\r\n', expected: 'BAG 17' }),
    fails: () => judgeText({ relay: 'SC-701', port: 4001, came: null, expected: 'BAG 17' }),
    nothing: () => judgeText({ relay: 'SC-701', port: null, came: undefined, expected: '' }),
  },
  backups: {
    passes: () => backups(about(meter(), [fact('backup', 'old.zip'), fact('backup', 'new.zip')])),
    fails: () => backups(about(meter(), [fact('backup', 'old.zip')])),
    nothing: () => backups(about(meter())),
  },
  'before-picture': {
    passes: () => judgeBefore(picture(1, [shown('EM-501', true)]), ['EM-501'], now),
    // A picture is kept or it is not: there is nothing that it could differ from.
    fails: 'never',
    nothing: () => judgeBefore(picture(1, [shown('EM-501', false)]), ['EM-501'], now),
  },
  returned: {
    passes: () => judgeReturned(picture(1, [shown('A', true)]), picture(4, [shown('A', true)]), [], changed),
    fails: () => judgeReturned(picture(1, [shown('A', true)]), picture(4, [shown('A', false)]), [], changed),
    nothing: () => judgeReturned(picture(1, [shown('A', false)]), picture(4, [shown('A', true)]), [], changed),
  },
}
/** A device that is called em-1 in a server too: what was read in the device and there. */
const named = (...read: readonly string[]): Written =>
  about(
    meter({ hostName: 'em-1', namePlaces: [{ where: 'server', text: 'em-1' }] }),
    read.map((text, k) => fact(`${NAME_IN}${k === 0 ? 'the device itself' : 'server'}`, text)),
  )
function withMac(mac: string): Device {
  return meter({ ports: [samplePort('10.20.40.50', { mac })] })
}

describe.each(Object.keys(checkIds) as CheckId[])('%s', (id) => {
  const cases = catalogue[id]
  test('passes where it agrees, and says how many were compared', () => {
    const { verdict, compared, of } = cases.passes()
    expect(verdict).toBe('passed')
    expect(compared).toBeGreaterThan(0)
    expect(of).toBeGreaterThanOrEqual(compared)
  })
  test('fails where it differs', () =>
    expect(cases.fails === 'never' ? 'never' : cases.fails().verdict).toBe(
      id === 'before-picture' ? 'never' : 'failed',
    ))
  test('is not conclusive with nothing to compare, and says why', () => {
    const { verdict, compared, say } = cases.nothing()
    expect({ verdict, compared }).toEqual({ verdict: 'not-conclusive', compared: 0 })
    expect(say).toMatch(/\w+.*[.:]/)
  })
})

describe('how looks are judged', () => {
  const how = 'computed' as const
  test.each([
    [[], 'all', 'not-conclusive'],
    [[agrees('')], 'all', 'passed'],
    [[agrees(''), notKnown('?')], 'all', 'not-conclusive'],
    [[agrees(''), notKnown('?')], 'one', 'passed'],
    [[agrees(''), differs('no'), notKnown('?')], 'one', 'failed'],
    [[notKnown('?')], 'one', 'not-conclusive'],
  ] as const)('%j, %s needed: %s', (looks, needs, verdict) =>
    expect(judged(looks, { how, needs }).verdict).toBe(verdict),
  )

  test('what was not compared is named, and counted', () => {
    const { say } = judged([agrees(''), agrees(''), notKnown('C was silent.')], { how, needs: 'one', good: 'Kept.' })
    expect(say).toBe('Kept. C was silent. 2 of 3 compared.')
  })
})

describe('who answers at an address', () => {
  const other = sampleDevice('INV-301', '10.20.40.60', { orderCode: 'HI-12-B', serialNumber: 'S9' })
  const own = meter({ orderCode: 'EM-3F-E', serialNumber: 'S4' })

  test.each<[string, SeenAt, Device, readonly SettingFact[], CheckResult['verdict'], RegExp]>([
    ['the order code of another one', seen({ identities: [said('M', 'HI-12', '1')] }), own, [], 'failed', /of INV-301/],
    [
      'a code that nobody planned',
      seen({ identities: [said('M', 'ZZ-9', '1')] }),
      own,
      [],
      'not-conclusive',
      /not known/,
    ],
    ['its serial number', seen({ identities: [said('M', '', '1', 'S4')] }), own, [], 'passed', /answers at port 502/],
    [
      'the serial number of another one',
      seen({ identities: [said('M', '', '1', 'S9')] }),
      own,
      [],
      'failed',
      /INV-301/,
    ],
    [
      'the tag of another one inside its name',
      seen({ identities: [said('M', 'EM-3F', '1', 'INV-301')] }),
      own,
      [],
      'not-conclusive',
      /called INV-301/,
    ],
    [
      'only the tag of another one',
      seen({ identities: [said('M', '', '', 'INV-301')] }),
      meter(),
      [],
      'not-conclusive',
      /called INV-301/,
    ],
    [
      'what it said at its old address',
      seen(),
      meter(),
      [fact('says', 'Sample maker, EM-3F, 2.3')],
      'passed',
      /answers/,
    ],
    [
      'something else than at its old address',
      seen(),
      meter(),
      [fact('says', 'Other, X, 1')],
      'failed',
      /at its old address it said/,
    ],
    [
      'the hardware address of its label',
      seen({ identities: [], hardwareAddress: '02:5e:0b:10:7c:11' }),
      meter(),
      [fact('mac', '02:5E:0B:10:7C:11')],
      'passed',
      /answers/,
    ],
    [
      'another hardware address than its label',
      seen({ identities: [], hardwareAddress: '02:5E:0B:10:7C:14' }),
      meter(),
      [fact('mac', '02:5E:0B:10:7C:11')],
      'failed',
      /EM-501 is 02/,
    ],
    [
      'the hardware address that was heard before',
      seen({ identities: [], hardwareAddress: '02:5E:0B:10:7C:11' }),
      meter(),
      [fact('heard', '02:5E:0B:10:7C:11')],
      'passed',
      /answers/,
    ],
    [
      'another than was heard before',
      seen({ identities: [], hardwareAddress: '02:5E:0B:10:7C:14' }),
      meter(),
      [fact('heard', '02:5E:0B:10:7C:11')],
      'failed',
      /it was 02/,
    ],
    [
      'which box it is, off a label: who answers is another question',
      seen({ identities: [] }),
      meter(),
      [fact('identity', 'label read')],
      'not-conclusive',
      /was not seen/,
    ],
    [
      'its plug pulled, and this address went silent',
      seen({ identities: [] }),
      meter(),
      [fact(PLUG_SHOWS, '10.20.40.50')],
      'passed',
      /answers/,
    ],
    [
      'its plug pulled, and another address went silent',
      seen({ identities: [] }),
      meter(),
      [fact(PLUG_SHOWS, '192.168.1.20')],
      'not-conclusive',
      /compared with nothing/,
    ],
    ['two at once', seen({ identities: [said('M', 'A'), said('M', 'B')] }), own, [], 'failed', /^Two answer/],
    [
      'every port closed',
      seen({ ports: [{ port: 502, connection: 'refused' }], identities: [] }),
      own,
      [],
      'failed',
      /every port closed/,
    ],
  ])('%s', (_, at, device, facts, verdict, says) => {
    const result = judgeReached(about(device, facts, [other]), at)
    expect(result.verdict).toBe(verdict)
    expect(result.say).toMatch(says)
  })

  test('what two boxes of one kind have in common does not tell which of them answers', () => {
    const twin = sampleDevice('EM-502', '10.20.40.51', { orderCode: 'EM-3F-E' })
    const same = (...facts: readonly SettingFact[]) => judgeReached(about(own, facts, [twin]), seen())
    expect(same()).toMatchObject({
      verdict: 'not-conclusive',
      say: expect.stringContaining('EM-502 has it too') as string,
    })
    const says = (deviceId: string) => fact('says', 'Sample maker, EM-3F, 2.3', { deviceId })
    expect(same(says('EM-501')).verdict).toBe('passed')
    expect(same(says('EM-501'), says('EM-502'))).toMatchObject({
      verdict: 'not-conclusive',
      say: expect.stringContaining('so does EM-502') as string,
    })
    expect(same(says('EM-501'), says('EM-502'), fact(PLUG_SHOWS, '10.20.40.50')).verdict).toBe('passed')
  })

  test('silence says nothing while the laptop is somewhere else', () => {
    expect(judgeReached(about(own), seen({ ...silent, canSee: false })).verdict).toBe('not-conclusive')
    expect(judgeGone(seen({ ...silent, canSee: false })).verdict).toBe('not-conclusive')
  })
})

describe('what is written down', () => {
  test('the differing character of an order code is told, and when the two look alike', () => {
    expect(orderCode(about(meter({ orderCode: 'PM-30-E', orderCodeFound: 'PM-3O-E' }))).say).toContain(
      'They differ at character 5, which look alike.',
    )
  })

  test('plan, label and what the device says are three facts', () => {
    const device = meter({ orderCode: 'EM-3F-E', orderCodeFound: 'EM-3F-E' })
    expect(orderCode(about(device, [fact('product-code', 'EM-3F')]))).toMatchObject({ verdict: 'passed', of: 2 })
    expect(orderCode(about(device, [fact('product-code', 'HI-12')])).verdict).toBe('failed')
    // What it says does not stand for a label that nobody read.
    const unread = about(meter({ orderCode: 'EM-3F-E' }), [fact('product-code', 'EM-3F')])
    expect(orderCode(unread).verdict).toBe('not-conclusive')
  })

  test('the same file twice is one backup', () => {
    const twice = backups(about(meter(), [fact('backup', 'Old.zip '), fact('backup', 'old.zip', { id: '2' })]))
    expect(twice).toMatchObject({ verdict: 'failed', say: '1 of 2 backups written down. 1 of them the same again.' })
  })

  test('a twin without power is no twin; one whose place is not known is named', () => {
    const off = about(
      drive('PD-1', '10.20.40.21'),
      [fact('power', 'off', { deviceId: 'PD-2' })],
      [drive('PD-2', '10.20.40.22')],
    )
    expect(identified(off).verdict).toBe('passed')
    const unknown = about(
      drive('PD-1', '10.20.40.21'),
      [],
      [sampleDevice('X', '10.20.40.9', { kind: 'supervisor', asFound: 'not known' })],
    )
    expect(identified(unknown)).toMatchObject({ verdict: 'not-conclusive' })
    expect(identified(unknown).say).toContain('Where X is now is not known, nor whether it has power.')
    const told = about(drive('PD-1', '10.20.40.21'), [fact('identity', 'label', { deviceId: 'PD-1' })])
    expect(identified(told).say).toBe('Identified: label.')
  })
})

describe('plan, label, and what it says by itself', () => {
  const lines = (device: Device, ...facts: readonly SettingFact[]) => threeFacts({ ...blankWalk, facts }, device)

  test('nothing was read: there is no line', () => expect(lines(meter({ orderCode: 'EM-3F-E' }))).toEqual([]))

  test.each<[string, Device, readonly SettingFact[], string, string]>([
    ['label as planned', meter({ orderCode: 'A-1', orderCodeFound: 'A-1' }), [], 'Order code', 'agrees'],
    ['label otherwise', meter({ orderCode: 'A-1', orderCodeFound: 'A-l' }), [], 'Order code', 'differs'],
    ['label without a plan', meter({ orderCodeFound: 'A-1' }), [], 'Order code', 'not-known'],
    [
      'it says a part of its code',
      meter({ orderCode: 'EM-3F-E' }),
      [fact('product-code', 'EM-3F')],
      'Order code',
      'agrees',
    ],
    ['it says another code', meter({ orderCode: 'EM-3F-E' }), [fact('product-code', 'HI-12')], 'Order code', 'differs'],
    [
      'another hardware address',
      withMac('02:5E:0B:10:7C:11'),
      [fact('mac', '02:5E:0B:10:7C:14')],
      'Hardware address',
      'differs',
    ],
    [
      'newer firmware than asked for',
      meter({ firmwareRelation: 'at-least', firmwareNeeded: '2', firmwareFound: '2.3' }),
      [],
      'Firmware',
      'agrees',
    ],
    [
      'another firmware than was typed',
      meter({ firmwareFound: '2.3' }),
      [fact('firmware', '2.4')],
      'Firmware',
      'differs',
    ],
    ['another unit id', meter(), [fact('unit-id', '3')], 'Unit id', 'differs'],
  ])('%s', (_, device, facts, what, state) =>
    expect(lines(device, ...facts).find((line) => line.what === what)?.state).toBe(state),
  )

  test('a person can let the plan say what was read; what agrees needs nothing', () => {
    const [line] = lines(meter({ orderCode: 'A-1', orderCodeFound: 'A-2' }))
    expect(line?.asRead).toMatchObject({ op: 'set', table: 'device', fields: { orderCode: 'A-2' } })
    const [mac] = lines(withMac('02:5E:0B:10:7C:11'), fact('mac', '02:5E:0B:10:7C:14'))
    expect(mac?.asRead).toMatchObject({ table: 'port', fields: { mac: '02:5E:0B:10:7C:14' } })
    expect(lines(meter({ orderCode: 'A-1', orderCodeFound: 'A-1' }))[0]?.asRead).toBeUndefined()
  })
})

describe('before and after', () => {
  test('who was not pictured, or not seen, is named', () => {
    const before = picture(1, [shown('A', true), shown('B', null), shown('C', false)])
    expect(judgeBefore(before, ['A', 'B', 'C', 'D'], now).say).toBe(
      'The before-picture is kept. B was not looked at: the laptop was in no subnet of it. C was silent. ' +
        'D is not in it: no address is known for it. 1 of 4 compared.',
    )
  })

  test('a list of field devices is something that is written down, a device that nobody saw is not', () => {
    expect(judgeBefore(picture(1, [shown('A', null)]), ['A'], now)).toMatchObject({
      verdict: 'not-conclusive',
      compared: 0,
    })
    const listed = judgeBefore(picture(1, [shown('A', null)], 'VAV 1\tok\nVAV 2\tfault'), ['A'], now)
    expect(listed).toMatchObject({ verdict: 'passed', compared: 2, of: 3 })
    expect(listed.say).toContain('with 2 field devices as listed. A was not looked at')
  })

  test('back is only who was looked at again and says what it said', () => {
    const before = picture(1, [shown('A', true, 'a'), shown('B', true, 'b'), shown('C', false)])
    const after = (...devices: Picture['devices']) => judgeReturned(before, picture(4, devices), [], changed)
    expect(after(shown('A', true, 'a'), shown('B', true, 'b'))).toMatchObject({ verdict: 'passed', compared: 2 })
    expect(after(shown('A', true, 'a'), shown('B', null)).verdict).toBe('not-conclusive')
    expect(after(shown('A', true, 'a')).say).toContain('B was not looked at afterwards.')
    expect(after(shown('A', true, 'a'), shown('B', true, 'z')).verdict).toBe('failed')
    expect(after(shown('A', true, 'a'), shown('B', true, 'b')).say).toContain('Not seen before: C.')
    expect(judgeReturned(before, picture(1, [shown('A', true, 'a')])).verdict).toBe('not-conclusive')
  })

  test('field devices of a list: gone, new, at fault now, at fault before', () => {
    const before = picture(1, [shown('A', true)], 'VAV 1-01\tonline\nVAV 1-02\tfault\nVAV 1-03;ok\nVAV 1-04  ok')
    const after = picture(4, [shown('A', true)], 'vav_1_01\tdown\nVAV 1-02\tfault\nVAV 1-03\tok\nVAV 1-09\tok')
    expect(comparePictures(before, after).differences.map(({ tag, kind }) => [tag, kind])).toEqual([
      ['VAV 1-04', 'new-fault'],
      ['vav_1_01', 'new-fault'],
      ['VAV 1-02', 'old-fault'],
      ['VAV 1-09', 'added'],
    ])
    const result = judgeReturned(before, after, [], changed)
    // With a list, the unit that was away answers for what hangs behind it, not for the rest of the plant.
    expect(result).toMatchObject({ verdict: 'failed', compared: 4, of: 4 })
    expect(judgeReturned(before, after, ['A'], changed)).toMatchObject({ compared: 5, of: 5 })
    expect(result.say).toContain('At fault now: VAV 1-01. Gone: VAV 1-04.')
    expect(judgeReturned(before, picture(4, [shown('A', true)]), [], changed).verdict).toBe('not-conclusive')
  })

  test('planned values: gone, back, moved beyond their tolerance, not read', () => {
    const value = (point: string, is: number | null, more: Partial<PicturedValue> = {}): PicturedValue => ({
      device: 'A',
      point,
      value: is,
      text: is === null ? 'It is silent.' : `${is} bar`,
      tolerance: { kind: 'absolute', amount: 0.5 },
      ...more,
    })
    const of = (at: number, ...values: readonly PicturedValue[]) => ({ ...picture(at, [shown('A', true)]), values })
    const before = of(1, value('same', 4), value('moved', 4), value('gone', 4), value('back', null), value('unread', 4))
    const unread = value('unread', null, { unasked: true })
    const after = of(4, value('same', 4.5), value('moved', 4.6), value('gone', null), value('back', 4), unread)
    const comparison = comparePictures(before, after)
    expect(comparison.differences.map(({ tag, kind, say }) => [tag, kind, say])).toEqual([
      ['A, moved', 'changed', 'Is 4.6 bar, was 4 bar.'],
      ['A, gone', 'new-fault', 'Was 4 bar, gives no value now: It is silent.'],
      ['A, back', 'better', 'Gave no value before, is 4 bar now.'],
      ['A, unread', 'not-seen', 'Not read afterwards:'],
    ])
    // The device and four of its five values.
    expect(comparison).toMatchObject({ compared: 5, of: 6 })
    // A plant moves by itself: only a value that is gone is not back.
    expect(judgeReturned(before, after, [], changed)).toMatchObject({ verdict: 'failed', compared: 4, of: 5 })
    expect(judgeReturned(before, after, [], changed).say).toContain('A, gone was 4 bar and gives no value now')
    const without = (is: Picture) => ({ ...is, values: (is.values ?? []).filter(({ point }) => point !== 'gone') })
    expect(judgeReturned(without(before), without(after), [], changed).verdict).toBe('not-conclusive')
    const asked = of(4, value('same', 4.5), value('moved', 9), value('back', 4), value('unread', 4))
    expect(judgeReturned(without(before), asked, [], changed)).toMatchObject({ verdict: 'passed', compared: 4 })
    // With a list of field devices, only what hangs behind the unit that was away.
    const listed = { ...before, fieldDevices: [] }
    expect(judgeReturned(listed, after, ['B'], changed)).toMatchObject({ verdict: 'not-conclusive', compared: 0 })
  })

  test('a name that stands twice in a list is told', () => {
    expect(readFieldList('A\tok\n\na \tfault\nB')).toEqual({
      devices: [
        { name: 'A', status: 'ok', fault: false },
        { name: 'B', status: '', fault: false },
      ],
      twice: ['a'],
    })
  })
})

describe('what a menu shows against the plan', () => {
  const shownBy = (more: Readonly<Record<string, string>>) => showsPlanned(about(meter(), menuShows(more)))
  test('one value that was not read leaves it open, one that differs fails it', () => {
    expect(shownBy({ mask: '' })).toMatchObject({ verdict: 'not-conclusive', compared: 2, of: 3 })
    expect(shownBy({ mask: '' }).say).toContain('Its subnet mask was not read in its menu.')
    expect(shownBy({ mask: '', gateway: '10.20.40.2' })).toMatchObject({ verdict: 'failed' })
  })

  test('what somebody typed is not what it shows', () => {
    const typed = menuShows({}).map((each) => ({ ...each, how: 'typed' as const }))
    expect(showsPlanned(about(meter(), typed))).toMatchObject({ verdict: 'not-conclusive', compared: 0 })
  })
})
