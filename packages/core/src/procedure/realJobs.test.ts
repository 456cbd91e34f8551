import { controllerSees, nodesListed, relayFirmware, servedVerified } from '../checks'
import { ipv4, prefixLength } from '../address'
import type { Device, Job, Line } from '../job'
import { sampleDevice, sampleHandshake, sampleJob, sampleLine } from '../job/fixtures'
import {
  blankWalk,
  bringUpJobOf,
  consequencesOf,
  devicesAgainst,
  LISTED_DEVICES,
  listedNodesOf,
  nearestWithAddress,
  nodesAgainst,
  planWalk,
  runOfDevice,
  servedBy,
  usualSettings,
  walkOf,
  type SettingFact,
  type Stop,
  type WalkRecord,
} from '.'

const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]
function stopsOf(job: Job, record: WalkRecord = blankWalk): readonly Stop[] {
  const given = bringUpJobOf(job, record, laptop)
  const plan = planWalk(given, [], [], 1)
  if (!('answer' in plan)) throw new Error('no order')
  expect(plan.leftOut).toEqual([])
  return walkOf(job, record, plan.answer.actions, given)
}
const fact = (deviceId: string, setting: string, text: string, more: Partial<SettingFact> = {}): SettingFact => ({
  id: `${deviceId} ${setting} ${text}`,
  deviceId,
  setting,
  standing: 'found',
  text,
  how: 'typed',
  who: 'R. Osei',
  at: 10,
  ...more,
})
const withFacts = (...facts: readonly SettingFact[]): WalkRecord => ({ ...blankWalk, facts })
/** All sayings of the walk in their order, each with the stop that it stands in. */
const sayings = (stops: readonly Stop[]) =>
  stops.flatMap((stop) => stop.steps.map(({ step }) => `${stop.title} | ${step.kind}: ${step.say}`))
const placeOf = (all: readonly string[], what: RegExp) => {
  const place = all.findIndex((say) => what.test(say))
  if (place < 0) throw new Error(`nothing says ${what}`)
  return place
}
const node = (device: string, line: string, number: number | null, isMaster = false) => ({
  id: `${device} ${line}`,
  lineId: line,
  name: '',
  node: number,
  isMaster,
  position: 0,
  version: 1,
})

describe('a bus with a master: a motion controller and three axes', () => {
  const line: Line = sampleLine({ id: 'motion', name: 'Motion bus', medium: 'rs-485-two-wire', settings: '' })
  const controller = sampleDevice('MC-201', '10.20.40.11', {
    kind: 'controller',
    asFound: '192.168.66.11',
    isolation: 'Q1',
    firmwareFound: '3.2',
    nodes: [node('MC-201', 'motion', null, true)],
  })
  const axis = (tag: string, number: number, more: Partial<Device> = {}) =>
    sampleDevice(tag, null, {
      kind: 'servo',
      ports: [],
      behindId: 'MC-201',
      isolation: 'Q2',
      nodes: [node(tag, 'motion', number)],
      ...more,
    })
  const axes = [axis('AX-1', 1), axis('AX-2', 2), axis('AX-3', 3)]
  const job = sampleJob({ devices: [controller, ...axes], lines: [line] })

  test('one stop: nodes set before power, one search, one list; motion is cautioned once for all three', () => {
    const all = sayings(stopsOf(job))
    const count = (what: RegExp) => all.filter((say) => what.test(say)).length
    expect(count(/caution: A drive with power can start/)).toBe(1)
    expect(count(/set: Node of AX-/)).toBe(3)
    expect(count(/do: Search on the bus through the controller/)).toBe(1)
    expect(count(/check: Take in the list of the search/)).toBe(1)
    expect(placeOf(all, /First leg/)).toBeLessThan(placeOf(all, /Search on the bus/))
    // It is found when its controller has been.
    expect(placeOf(all, /MC-201 answers at 10\.20\.40\.11/)).toBeLessThan(placeOf(all, /First leg/))
  })

  test('the program comes last, after what the controller talks to; then what it sees, then its lamps again', () => {
    const all = sayings(stopsOf(job))
    const last = all.slice(placeOf(all, /Last: MC-201/)).map((say) => say.replace(/^.*\| /, ''))
    expect(last.map((say) => say.slice(0, 40))).toEqual([
      'check: What MC-201 talks to is verified.',
      expect.stringMatching(/^caution: A download stops/),
      expect.stringMatching(/^do: Download the program/),
      expect.stringMatching(/^check: The programming tool lists/),
      expect.stringMatching(/^expect: A second look at the lamps/),
      expect.stringMatching(/^expect: A switch at an input/),
    ])
    expect(placeOf(all, /Take in the list/)).toBeLessThan(placeOf(all, /What MC-201 talks to/))
  })

  test('the list of the search against the plan: all, one missing, one more, twice, exchanged, another spelling', () => {
    const states = (text: string) => nodesAgainst(job, axes, text).map(({ state, say }) => say || state)
    expect(states('Node\tName\n1\tax_1\n2\tAX 2\n03\tservo')).toEqual(['agrees', 'agrees', 'agrees'])
    expect(states('1;AX-1\n3;AX-3')).toEqual(['agrees', 'Not listed: AX-2, node 2.', 'agrees'])
    expect(states('1\n2\n3\n7  spare')).toEqual(['agrees', 'agrees', 'agrees', 'Node 7 is listed and not planned.'])
    expect(states('1\n2\n2\n3')).toEqual(['agrees', 'Node 2 is listed 2 times.', 'agrees'])
    expect(states('1, AX-2\n2, AX-1\n3')).toEqual([
      'Node 1 is listed as AX-2; planned is AX-1.',
      'Node 2 is listed as AX-1; planned is AX-2.',
      'agrees',
    ])
    expect(states('nothing found')).toEqual(axes.map(({ tag }, k) => `Not listed: ${tag}, node ${k + 1}.`))
  })

  test('the check says how many; what passes is a fact of each axis', () => {
    const listed = (text: string) =>
      nodesListed({ job, record: withFacts(fact('MC-201', listedNodesOf(axes[0]), text)) }, axes, 10)
    expect(nodesListed({ job, record: blankWalk }, axes, 0)).toMatchObject({ verdict: 'not-conclusive', compared: 0 })
    expect(listed('1\n2\n3')).toMatchObject({ verdict: 'passed', compared: 3, of: 3 })
    expect(listed('1\n2')).toMatchObject({ verdict: 'failed' })
    const stop = stopsOf(job).find(({ key }) => key.startsWith('row '))
    const step = stop?.steps.find((each) => each.step.check === 'nodes-listed')
    if (!stop || !step) throw new Error('no row')
    expect(
      consequencesOf(job, stop, step, '').facts.map(({ deviceId, text, standing }) => [deviceId, text, standing]),
    ).toEqual(axes.map(({ id }, k) => [id, String(k + 1), 'verified']))
  })

  test('what was reached leg by leg, or whose text arrived, counts as verified', () => {
    const step = (check: 'reached-present' | 'text-arrives') => ({
      key: 'k',
      stopKey: 's',
      deviceId: 'EM-9',
      deviceIds: ['EM-9'],
      step: { id: 'x', phase: 'verify' as const, kind: 'check' as const, check, say: '' },
      seconds: 0,
      blocks: false,
      record: undefined,
    })
    const verifiedBy = (check: 'reached-present' | 'text-arrives', more: Partial<Device>) => {
      const device = sampleDevice('EM-9', null, { ports: [], behindId: 'MC-201', ...more })
      const stop = stopsOf(job)[0]
      if (!stop) throw new Error('no stop')
      const { facts } = consequencesOf(sampleJob({ devices: [device] }), stop, step(check), '')
      return facts.map(({ setting, standing, text }) => `${setting} ${standing} ${text}`)
    }
    expect(verifiedBy('reached-present', { unitId: 9 })).toEqual(['unit-id verified 9'])
    // A port that takes a connection says nothing of the unit behind it.
    expect(verifiedBy('reached-present', { unitId: 9, textPort: 4001 })).toEqual([])
    expect(verifiedBy('reached-present', { unitId: null })).toEqual([])
    expect(verifiedBy('text-arrives', { textPort: 4001 })).toEqual(['text verified arrives at port 4001'])
  })

  test('an axis asks for a firmware of its controller, not of itself', () => {
    const asks = (firmwareNeeded: string, firmwareFound = '3.2') => {
      const own = axis('AX-1', 1, { firmwareNeeded, firmwareFound: '1.0', firmwareRelation: 'at-least' })
      const of = sampleJob({ devices: [{ ...controller, firmwareFound }, own] })
      return relayFirmware({ job: of, record: blankWalk, device: own })
    }
    expect(asks('3.1')).toMatchObject({ verdict: 'passed', say: 'MC-201 has 3.2, asked for: at least 3.1.' })
    expect(asks('3.10')).toMatchObject({ verdict: 'failed' })
    expect(asks('3.1', '')).toMatchObject({ verdict: 'not-conclusive' })
    expect(asks('')).toMatchObject({ verdict: 'not-conclusive', compared: 0 })
  })

  test('what it talks to is verified: by address, by node, by unit id; n of m', () => {
    const drive = sampleDevice('PD-101', '10.20.40.21')
    const of = sampleJob({
      devices: [controller, ...axes, drive],
      lines: [line],
      handshakes: [sampleHandshake('MC-201', 'PD-101')],
    })
    expect(servedBy(of, controller).map(({ tag }) => tag)).toEqual(['AX-1', 'AX-2', 'AX-3', 'PD-101'])
    const verified = (id: string, setting: string, text: string) => fact(id, setting, text, { standing: 'verified' })
    const facts = [
      ...axes.map(({ id }, k) => verified(id, 'node', String(k + 1))),
      verified('PD-101', 'address', '10.20.40.21'),
    ]
    const check = (some: readonly SettingFact[]) =>
      servedVerified({ job: of, record: withFacts(...some), device: controller })
    expect(check(facts)).toMatchObject({ verdict: 'passed', compared: 4, of: 4 })
    expect(check(facts.slice(1))).toMatchObject({ verdict: 'failed' })
    expect(check(facts.slice(1)).say).toBe('Not verified yet: AX-1. 4 of 4 compared.')
    // Verified at another address than the planned one is not verified.
    expect(check([...facts.slice(0, 3), verified('PD-101', 'address', '10.20.40.99')])).toMatchObject({
      verdict: 'failed',
    })
    expect(servedVerified({ job: of, record: blankWalk, device: drive })).toMatchObject({ verdict: 'not-conclusive' })
  })

  test('what the controller lists: missing, at fault, one more, another spelling, a list from before the download', () => {
    const states = (text: string) => devicesAgainst(axes, text).map(({ state, say }) => say || state)
    expect(states('ax_1\tok\nAX 2; running\nAX-3')).toEqual(['agrees', 'agrees', 'agrees'])
    expect(states('Name\tStatus\nAX-1\nAX-2\nAX-3')).toEqual(['agrees', 'agrees', 'agrees'])
    expect(states('AX-1\tok\nAX-2\tfault 0x20')).toEqual([
      'agrees',
      'AX-2 is at fault there: fault 0x20.',
      'Not listed: AX-3.',
    ])
    const sees = (text: string, since = 0) =>
      controllerSees({ job, record: withFacts(fact('MC-201', LISTED_DEVICES, text)), device: controller }, since)
    expect(sees('AX-1\nAX-2\nAX-3').say).toBe('It sees 3 of 3. 3 of 3 compared.')
    expect(sees('AX-1\nAX-2 \nAX-9')).toMatchObject({ verdict: 'failed' })
    expect(sees('AX-1\nAX-2\nAX-9').say).toBe(
      'It sees 2 of 3. Not listed: AX-3. 3 of 3 compared. Listed and not planned: AX-9.',
    )
    expect(sees('AX-1\nAX-2\nAX-3', 11)).toMatchObject({ verdict: 'not-conclusive', compared: 0 })
  })
})

describe('an inverter with its meter and its changeover unit', () => {
  const inverter = sampleDevice('INV-301', '10.20.40.60', { kind: 'inverter', isolation: 'Q1' })
  const meter = sampleDevice('EM-301', null, {
    kind: 'meter',
    ports: [],
    unitId: 1,
    behindId: 'INV-301',
    isolation: 'Q2',
  })
  const changeover = sampleDevice('BCU-301', null, {
    kind: 'battery-interface',
    ports: [],
    behindId: 'INV-301',
    isolation: 'Q1',
  })
  const all = sayings(stopsOf(sampleJob({ devices: [inverter, meter, changeover] })))

  test('DC, the changeover unit’s switches and the meter’s transformers come before the breaker of each', () => {
    const on = (group: string) => placeOf(all, new RegExp(`do: Put ${group} on`))
    expect(placeOf(all, /caution: DC of panels and battery stays live/)).toBeLessThan(on('Q1'))
    expect(placeOf(all, /prepare: DC stays live: isolate, prove dead/)).toBeLessThan(on('Q1'))
    expect(placeOf(all, /set: Switches of BCU-301|decide: Are its switches marked in octal/)).toBeLessThan(on('Q1'))
    expect(all.some((say) => /secondary under load/.test(say))).toBe(true)
  })

  test('a breaker that nothing with an address hangs on is put on in the walk, once, and counts as on afterwards', () => {
    const job = sampleJob({
      devices: [inverter, meter, changeover, { ...meter, id: 'EM-302', tag: 'EM-302', unitId: 2 }],
    })
    const beside = stopsOf(job).filter(({ title }) => title.startsWith('Put Q2 on'))
    expect(beside.map(({ title }) => title)).toEqual(['Put Q2 on: EM-301, EM-302'])
    const [stop] = beside
    const on = stop?.steps.find(({ step }) => step.id === 'on')
    if (!stop || !on) throw new Error('Q2 is not put on')
    expect(consequencesOf(job, stop, on, '').facts.map(({ deviceId, text }) => `${deviceId} ${text}`)).toEqual([
      'EM-301 on',
      'EM-302 on',
    ])
    // Said live, it is not put on, and its sheet is looked at all the same.
    const live = { ...blankWalk, settings: { ...usualSettings, groups: { Q2: { live: true } } } }
    const titles = stopsOf(job, live).map(({ title }) => title)
    expect(titles).toContain('Before work on Q2: EM-301, EM-302')
    expect(titles.filter((title) => /^Put Q2/.test(title))).toEqual([])
  })

  test('it is held while somebody who is left out has power by it too, at an address that is live', () => {
    const twin = sampleDevice('PD-1', '10.20.40.31', { kind: 'drive', asFound: '192.168.66.31', isolation: 'Q2' })
    const other = sampleDevice('PD-2', '10.20.40.32', { kind: 'drive', asFound: '192.168.66.31', isolation: 'Q3' })
    const record: WalkRecord = {
      ...blankWalk,
      settings: { ...usualSettings, leftOut: ['PD-1', 'PD-2'], groups: { Q3: { live: true } } },
    }
    const held = (of: Job) => stopsOf(of, record).find(({ title }) => title.startsWith('Put Q2 on'))?.held
    expect(held(sampleJob({ devices: [inverter, meter, twin, other] }))?.why).toMatch(/PD-1|PD-2/)
    expect(held(sampleJob({ devices: [inverter, meter, twin] }))).toBeNull()
  })

  test('what only licensed people set is said at the step, and the inverter is verified before what hangs behind it', () => {
    expect(all[placeOf(all, /caution: Grid parameters only as the network operator/)]).toMatch(/licensed/)
    const found = placeOf(all, /INV-301 answers at 10\.20\.40\.60/)
    expect(found).toBeLessThan(placeOf(all, /^EM-301/))
  })
})

describe('a panel with a converter without Ethernet', () => {
  const controller = sampleDevice('PLC-1', '10.20.40.10', {
    kind: 'controller',
    asFound: '192.168.66.10',
    isolation: 'Q1',
  })
  const converter = sampleDevice('CV-1', null, {
    kind: 'token-bus-converter',
    ports: [],
    behindId: 'PLC-1',
    isolation: 'Q1',
  })
  const reader = sampleDevice('BS-1', null, {
    kind: 'code-reader',
    ports: [],
    behindId: 'CV-1',
    isolation: 'Q1',
  })
  const all = sayings(stopsOf(sampleJob({ devices: [controller, converter, reader] })))

  test('its sheet and the mode switch of what hangs behind it come before power, and both are walked', () => {
    const on = placeOf(all, /do: Put Q1 on/)
    expect(placeOf(all, /prepare: Mode switch of the converter set before power/)).toBeLessThan(on)
    expect(all.filter((say) => say.startsWith('CV-1')).length).toBeGreaterThan(2)
    expect(all.filter((say) => say.startsWith('BS-1')).length).toBeGreaterThan(2)
    // It has no address: nobody looks for one.
    expect(all.some((say) => /^CV-1.*answers at \(/.test(say))).toBe(false)
  })
})

describe('where a device without an address stands decides its run, where its kind usually has one', () => {
  const head = sampleDevice('PLC-1', '10.20.40.10', {
    kind: 'rack-controller',
    asFound: '192.168.1.10',
    isolation: 'Q1',
  })
  const at = (medium: Line['medium'], kind: string, more: Partial<Device> = {}) => {
    const module = sampleDevice('X-1', null, {
      kind,
      ports: [],
      behindId: 'PLC-1',
      isolation: 'Q1',
      nodes: [node('X-1', 'L', 4)],
      ...more,
    })
    return { device: module, job: sampleJob({ devices: [head, module], lines: [sampleLine({ medium })] }) }
  }
  test.each<[Line['medium'], string, Partial<Device>, string]>([
    ['backplane', 'analog-io', {}, 'rack-module'],
    ['field-bus', 'remote-io', {}, 'bus-node'],
    ['motion-bus', 'servo', {}, 'relay-drives'],
    ['rs-485-two-wire', 'drive', { unitId: 4 }, 'unit-on-a-line'],
    ['rs-485-two-wire', 'field-device', { unitId: 4 }, 'serial-device'],
    ['rs-232', 'code-reader', { textPort: 4001 }, 'code-reader'],
  ])('%s, %s', (medium, kind, more, run) => {
    const { device, job } = at(medium, kind, more)
    expect(runOfDevice(job, blankWalk, device)?.id).toBe(run)
    // With an address of its own its kind decides, as before.
    const addressed = { ...device, ports: sampleDevice('X-1', '10.20.40.77').ports }
    const places = ['rack-module', 'bus-node', 'unit-on-a-line']
    expect(places).not.toContain(runOfDevice(job, blankWalk, addressed)?.id)
  })

  test('a rack of six modules: what is the same is said once, no label is asked for one by one', () => {
    const modules = [1, 2, 3, 4, 5, 6].map((slot) =>
      sampleDevice(`M-${slot}`, null, {
        kind: 'analog-io',
        ports: [],
        behindId: 'PLC-1',
        isolation: 'Q1',
        nodes: [node(`M-${slot}`, 'L', slot)],
      }),
    )
    const job = sampleJob({
      devices: [{ ...head, nodes: [node('PLC-1', 'L', 0, true)] }, ...modules],
      lines: [sampleLine({ medium: 'backplane' })],
    })
    const all = sayings(stopsOf(job))
    expect(all.filter((say) => /M-3/.test(say) && /record:/.test(say))).toEqual([])
    // One step for all six of them each.
    for (const what of [/Latched in its slot: M-1, M-2/, /Lamps of PLC-1, M-1, M-2/, /Jumper of each channel/])
      expect(all.filter((say) => what.test(say))).toHaveLength(1)
    expect(all.filter((say) => /Each slot of PLC-1 holds/.test(say))).toHaveLength(1)
  })

  test.each(['backplane', 'field-bus', 'rs-485-two-wire'] as const)(
    '%s: nobody is asked for an address that there is none of',
    (medium) => {
      const { job } = at(medium, 'remote-io', { unitId: 4 })
      const all = sayings(stopsOf(job)).filter((say) => /X-1/.test(say))
      expect(all.length).toBeGreaterThan(2)
      expect(all.filter((say) => /not planned/.test(say))).toEqual([])
    },
  )
})

test('who is reached through whom: the nearest with an address, however far; a circle ends', () => {
  const head = sampleDevice('GW-1', '10.20.40.40')
  const middle = sampleDevice('CV-1', null, { ports: [], behindId: 'GW-1' })
  const far = sampleDevice('BS-1', null, { ports: [], behindId: 'CV-1' })
  const job = sampleJob({ devices: [head, middle, far] })
  expect(nearestWithAddress(job, far)?.tag).toBe('GW-1')
  expect(nearestWithAddress(job, head)?.tag).toBe('GW-1')
  const circle = sampleJob({ devices: [{ ...middle, behindId: 'BS-1' }, far] })
  expect(nearestWithAddress(circle, far)).toBeUndefined()
  expect(nearestWithAddress(job, undefined)).toBeUndefined()
})
