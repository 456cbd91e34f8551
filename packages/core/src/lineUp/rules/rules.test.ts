import { addressPlanOf, type Device, type Job } from '../../job'
import { openLine, sampleDevice, sampleJob, sampleNetwork, samplePort } from '../../job/fixtures'
import { applyChanges } from '../../changes'
import { checkLineUp, standingFindings } from '../checkLineUp'
import { deviceRules } from '.'

const found = (job: Job) => checkLineUp(job, addressPlanOf(job, []))
const about = (more: Partial<Device>, others: readonly Device[] = []) =>
  found(sampleJob({ devices: [sampleDevice('X-1', '10.20.40.50', more), ...others] })).filter(
    (each) => each.subject.id === 'X-1',
  )
const rulesOf = (more: Partial<Device>, others: readonly Device[] = []) => about(more, others).map((each) => each.rule)

describe('a name', () => {
  test('with a character that names may not have is found, with the likely one', () => {
    const [finding] = about({ hostName: 'plc_101' })
    expect(finding).toMatchObject({ rule: 'device.host-name-form', fixes: [{ label: 'Use plc-101' }] })
  })
  test('of two devices, capitals making no difference', () => {
    expect(rulesOf({ hostName: 'PLC-101' }, [sampleDevice('Y', '10.20.40.51', { hostName: 'plc-101' })])).toEqual([
      'device.host-name-twice',
    ])
  })
  // 0 and O, 1 and l and I are the look-alikes of the trade (common practice, no source).
  test.each([
    ['eng-10', 'eng-1O', 'character 6 has the letter O, the plan has the digit 0. They look alike.'],
    ['sup-l', 'sup-1', 'character 5 has the digit 1, the plan has the small letter l. They look alike.'],
    ['sup-801', 'sup-80', 'character 7 ends, the plan has the digit 1.'],
    ['sup', 'sup ', 'character 4 has a space, the plan ends.'],
    ['abc', 'xbz', 'character 1 has "x", the plan has "a". 2 characters differ.'],
  ])('%s that must stand elsewhere and stands there as %s', (hostName, text, why) => {
    const [finding] = about({ hostName, namePlaces: [{ where: 'In the server', text }] })
    expect(finding?.why).toBe(`In the server: ${why}`)
  })
  test('that stands the same everywhere is not found', () => {
    expect(rulesOf({ hostName: 'sup-801', namePlaces: [{ where: 'In the server', text: 'sup-801' }] })).toEqual([])
  })
})

describe('what the label says', () => {
  test('an order code is compared whole, and where it differs is said', () => {
    const [finding] = about({ orderCode: 'VD-110-4-E', orderCodeFound: 'VD-11O-4-E' })
    expect(finding).toMatchObject({ rule: 'device.order-code', found: 'VD-11O-4-E' })
    expect(finding?.why).toContain('character 6 has the letter O, the plan has the digit 0. They look alike.')
  })
  test('a serial number that was read twice', () => {
    expect(rulesOf({ serialNumber: 'K4' }, [sampleDevice('Y', '10.20.40.51', { serialNumber: 'K4' })])).toEqual([
      'device.serial-number-twice',
    ])
  })
})

describe('firmware', () => {
  // Versions are compared number by number (SemVer 2.0.0 clause 11): 1.10 is above 1.9.
  test.each([
    ['1.10', 'at-least', '1.9', []],
    ['1.8', 'at-least', '1.9', ['device.firmware']],
    ['12.1', 'not-above', '12.0', ['device.firmware']],
    ['12.0', 'not-above', '12.0', []],
    ['3.0', 'equal', '3.1', ['device.firmware']],
    ['9', 'any', '3.1', []],
    ['', 'equal', '3.1', []],
  ] as const)('%s, which must be %s %s', (firmwareFound, firmwareRelation, firmwareNeeded, rules) => {
    expect(rulesOf({ firmwareFound, firmwareRelation, firmwareNeeded })).toEqual(rules)
  })
  test('not above that of another device: the controller and its server', () => {
    const server = sampleDevice('SRV', '10.20.40.51', { firmwareFound: '12.0' })
    const [finding] = about({ firmwareFound: '12.1', firmwareRelation: 'not-above', firmwareOfId: 'SRV' }, [server])
    expect(finding?.why).toBe('X-1 has 12.1; it must be not above 12.0, which SRV has.')
  })
})

describe('the way of setting', () => {
  test.each([
    ['keypad-last-octet', '192.168.1.20', ['device.setting-out-of-reach']],
    ['keypad-last-octet', '10.20.40.20', []],
    ['keypad', '192.168.1.20', []],
    ['rotary-switch', '10.20.40.1', []],
    ['web-page', '192.168.1.20', []],
    ['keypad-last-octet', 'unknown', []],
  ] as const)('%s, found at %s, planned at 10.20.40.50', (setting, asFound, rules) => {
    expect(rulesOf({ setting, asFound })).toEqual(rules)
  })
  test('six switches show at most 63', () => {
    expect(rulesOf({ setting: 'dip-switch', ports: [samplePort('10.20.40.64', { id: 'p' })], asFound: '' })).toEqual([
      'device.setting-out-of-reach',
    ])
  })
  test('another way of setting, taken by one press, ends it', () => {
    const job = sampleJob({
      devices: [sampleDevice('X-1', '10.20.40.50', { setting: 'keypad-last-octet', asFound: '192.168.1.20' })],
    })
    const edit = found(job)[0]?.fixes[0]?.edits[0]
    if (!edit) throw new Error('no fix')
    const after = applyChanges(job, [
      { op: 'set', table: 'device', id: 'X-1', version: 1, fields: { [edit.field]: edit.value } },
    ])
    expect(found(after)).toEqual([])
  })
})

describe('where the address lives', () => {
  const leased = (mac: string | null) =>
    sampleJob({
      networks: [sampleNetwork({ school: 'dhcp-reservation' })],
      devices: [sampleDevice('X-1', null, { ports: [samplePort('10.20.40.160', { id: 'p', mac })] })],
    })
  test('a reservation needs the hardware address', () => {
    expect(found(leased(null)).map((each) => each.rule)).toEqual(['device.reservation-without-mac'])
  })
  test('a reserved address may lie in the range of the server that gives it; a static one may not', () => {
    expect(found(leased('02:00:00:00:00:01'))).toEqual([])
    const fixed = { ...leased('02:00:00:00:00:01'), networks: [sampleNetwork()] }
    expect(found(fixed).map((each) => each.rule)).toEqual(['address.inside-dhcp-range'])
  })
})

describe('nodes and units', () => {
  const line = {
    id: 'L',
    name: 'serial',
    medium: 'rs-485-two-wire',
    family: 'decimal-1-247',
    ...openLine,
    version: 1,
  } as const
  const node = (id: string, number: number) => ({
    id,
    lineId: 'L',
    name: '',
    node: number,
    isMaster: false,
    version: 1,
  })
  test('on a serial line the node is the unit id', () => {
    const device = sampleDevice('FM', null, {
      behindId: 'GW',
      ports: [],
      unitId: 4,
      nodes: [node('n', 5)],
      asFound: 'unit 5',
    })
    const job = sampleJob({ lines: [line], devices: [sampleDevice('GW', '10.20.40.40', { kind: 'gateway' }), device] })
    expect(found(job).map((each) => each.rule)).toEqual(['device.unit-differs'])
  })
  test('two units behind one gateway cannot have one id, even where no line is planned', () => {
    const behind = (tag: string, unitId: number) => sampleDevice(tag, null, { behindId: 'GW', ports: [], unitId })
    const job = sampleJob({
      devices: [sampleDevice('GW', '10.20.40.40', { kind: 'gateway' }), behind('A', 3), behind('B', 3), behind('C', 4)],
    })
    expect(found(job).map((each) => [each.rule, each.subject.id, each.fixes[0]?.edits[0]?.field])).toEqual([
      ['bus.duplicate-node', 'A', 'unitId'],
      ['bus.duplicate-node', 'B', 'unitId'],
    ])
  })
})

test('a kind that nobody knows is said, and the device stays', () => {
  expect(rulesOf({ kind: 'toaster' })).toEqual(['device.kind-unknown'])
})

test('every rule says what it looks for and where that stands', () => {
  for (const rule of deviceRules) {
    expect(rule.id).toMatch(/^device\.[a-z-]+$/)
    expect(rule.summary).toMatch(/\.$/)
    expect(rule.source).toMatch(/RFC \d+|common practice|Modbus/)
  }
})

describe('a finding that is let stand', () => {
  const job = sampleJob({ devices: [sampleDevice('A', '10.20.40.60'), sampleDevice('B', '10.20.40.60')] })
  const acceptance = {
    id: 'a',
    rule: 'address.duplicate',
    subjectId: 'A-port',
    found: '10.20.40.60',
    reason: 'B leaves on Friday',
    who: 'R. Osei',
    at: 1,
    version: 1,
  }
  test('does not stand any more, its twin does', () => {
    const { open, accepted } = standingFindings(found(job), [acceptance])
    expect(open.map((each) => each.subject.id)).toEqual(['B-port'])
    expect(accepted.map((each) => each.acceptance.reason)).toEqual(['B leaves on Friday'])
  })
  test('stands again when something else is found', () => {
    expect(standingFindings(found(job), [{ ...acceptance, found: '10.20.40.61' }]).accepted).toEqual([])
  })
})
