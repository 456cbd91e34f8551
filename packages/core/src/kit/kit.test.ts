import { sampleDevice, sampleJob } from '../job/fixtures'
import { blankWalk, type WalkRecord } from '../procedure'
import { kitOf, kitParts, kitRules, PASSWORD_HOLDER, passwordsOf } from '.'

const ups = sampleDevice('UPS-401', '10.20.40.61', { kind: 'ups-card', isolation: 'Q4' })
const io = sampleDevice('RIO-111', '10.20.40.30', {
  kind: 'remote-io',
  isolation: 'Q5',
  setting: 'web-page',
  firmwareNeeded: '2.4',
  firmwareFound: '2.3',
})
const drive = sampleDevice('PD-101', '10.20.40.21', { kind: 'drive', isolation: 'Q11', setting: 'keypad' })
const plc = sampleDevice('PLC-101', '10.20.40.10', { kind: 'controller', isolation: 'Q1' })
const scanner = { ...sampleDevice('BS-701', null, { kind: 'code-reader', isolation: 'Q7' }), ports: [] }
const line = {
  id: 'l1',
  version: 1,
  name: 'Scanner line',
  medium: 'rs-232' as const,
  family: 'decimal-1-247' as const,
  settings: '115200 8N1',
  position: 1,
}
const job = {
  ...sampleJob({ devices: [ups, io, drive, plc, scanner] }),
  lines: [line as never],
}
const withNode = {
  ...job,
  devices: job.devices.map((device) =>
    device.tag === 'BS-701'
      ? { ...device, nodes: [{ id: 'n', version: 1, lineId: 'l1', node: 1, isMaster: false } as never] }
      : device,
  ),
}
const whats = (of: typeof job, record: WalkRecord = blankWalk) =>
  kitOf(of, record).map(({ what, whom }) => `${what}: ${whom.join(', ')}`)
const has = (list: readonly string[], pattern: RegExp) => list.filter((each) => pattern.test(each))

describe('what to take along', () => {
  test('follows from how devices are set, from their sockets and from the firmware asked for', () => {
    const list = whats(job)
    expect(has(list, /^The serial lead that belongs to it, for "Console".*: UPS-401$/)).toHaveLength(1)
    expect(has(list, /^Code of the unit, from its rear label: UPS-401$/)).toHaveLength(1)
    expect(has(list, /^Description file.*: RIO-111$/)).toHaveLength(1)
    expect(has(list, /^Firmware 2\.4; it has 2\.3: RIO-111$/)).toHaveLength(1)
    expect(has(list, /^Project of the controller.*: PLC-101$/)).toHaveLength(1)
    expect(has(list, /^Padlock and tag for each breaker.*: Q4, Q5, Q11, Q1, Q7$/)).toHaveLength(1)
    expect(has(list, /^Lead for the "Service" socket: USB to the laptop: PLC-101$/)).toHaveLength(1)
  })

  test('a line that is used asks for its adapter, one that nobody is on does not', () => {
    expect(has(whats(job), /RS-232/)).toEqual([])
    expect(has(whats(withNode), /^Serial adapter RS-232.*: Scanner line$/)).toHaveLength(1)
  })

  test('what is not walked asks for nothing, and nothing is asked for without a device', () => {
    const left: WalkRecord = { ...blankWalk, settings: { ...blankWalk.settings, leftOut: [ups.id] } }
    expect(has(whats(job, left), /UPS-401/)).toEqual([])
    expect(whats({ ...job, devices: [], lines: [] })).toEqual([])
  })

  test('firmware that is there already is not taken along', () => {
    const done = { ...job, devices: job.devices.map((device) => ({ ...device, firmwareFound: '2.4' })) }
    expect(has(whats(done), /^Firmware/)).toEqual([])
    // A relation that holds is enough: not above 12.0 is what 2.3 is.
    const asking = (firmwareRelation: 'not-above' | 'at-least', firmwareFound: string) => ({
      ...job,
      devices: job.devices.map((device) => ({ ...device, firmwareNeeded: '12.0', firmwareRelation, firmwareFound })),
    })
    expect(has(whats(asking('not-above', '2.3')), /^Firmware/)).toEqual([])
    expect(has(whats(asking('at-least', '2.3')), /^Firmware 12\.0; it has 2\.3/)).toHaveLength(1)
    expect(has(whats(asking('not-above', '')), /^Firmware 12\.0/)).toHaveLength(1)
  })

  test('every line has an id of its own, the same when it is computed again; parts come together', () => {
    const ids = kitOf(withNode, blankWalk).map(({ id }) => id)
    expect(new Set(ids).size).toBe(ids.length)
    expect(kitOf(structuredClone(withNode), blankWalk).map(({ id }) => id)).toEqual(ids)
    const parts = kitOf(withNode, blankWalk).map(({ part }) => part)
    expect([...parts].sort((a, b) => Object.keys(kitParts).indexOf(a) - Object.keys(kitParts).indexOf(b))).toEqual(
      parts,
    )
    expect(new Set(kitRules.map(({ id }) => id)).size).toBe(kitRules.length)
  })

  test('who holds a password is a fact, the password is nowhere', () => {
    const held: WalkRecord = {
      ...blankWalk,
      facts: [
        {
          id: 'f',
          deviceId: io.id,
          setting: PASSWORD_HOLDER,
          standing: 'found',
          text: 'M. Diaz',
          how: 'typed',
          who: 'x',
          at: 1,
        },
      ],
    }
    expect(passwordsOf(job, held).map(({ device, holder }) => `${device.tag}: ${holder}`)).toEqual(
      expect.arrayContaining(['UPS-401: ', 'RIO-111: M. Diaz']),
    )
    expect(passwordsOf(job, held).some(({ device }) => device.tag === 'PD-101' || device.tag === 'BS-701')).toBe(false)
  })
})
