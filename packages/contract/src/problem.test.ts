import Joi from 'joi'
import { address, ranges } from './fields'
import { foundText, pathText, problemsOf } from './problem'
import { newDevice, newEvidence, newNetwork, portPatch, readingEvidence, termPut } from './requests'

const problems = (schema: Joi.Schema, value: unknown) => {
  const { error } = schema.validate(value, { abortEarly: false, convert: false })
  return error ? problemsOf(error) : []
}

describe('problems', () => {
  test.each([
    [['devices', 3, 'unitId'], 'devices[3].unitId'],
    [['a'], 'a'],
    [[], ''],
    [[0, 'x'], '[0].x'],
  ])('the path %j is written %s', (path, text) => expect(pathText(path)).toBe(text))

  test('long values are shortened, nothing is called nothing', () => {
    expect(foundText(undefined)).toBe('nothing')
    expect(foundText('x'.repeat(200))).toHaveLength(80)
    expect(foundText({ a: 1 })).toBe('{"a":1}')
  })

  test('what core refuses keeps core’s reason and offers', () => {
    expect(problems(Joi.object({ at: address }), { at: '10.20.40.4:502' })).toEqual([
      {
        what: '"10.20.40.4:502" carries a port. The port has a field of its own.',
        where: 'at',
        expected: expect.stringMatching(/four whole numbers/),
        found: '10.20.40.4:502',
        offers: [{ label: 'Use 10.20.40.4', value: '10.20.40.4' }],
      },
    ])
  })

  test('several ranges, of which one is wrong', () => {
    expect(problems(ranges, '10.0.0.1-5, 10.0.0.9-2')).toMatchObject([
      { what: expect.stringMatching(/ends before it begins/) },
    ])
    expect(problems(ranges, '')).toEqual([])
  })
})

describe('what may be sent', () => {
  const port = { name: 'Ethernet', networkId: null, address: '10.20.40.4', prefix: null, gateway: null, tcpPort: 502 }
  const device = { tag: 'X-1', what: '', kind: 'meter', behindId: null, unitId: 1, asFound: '', note: '', port }

  test('a whole device', () => expect(problems(newDevice, device)).toEqual([]))

  test.each<[string, object, string]>([
    ['a missing field', { tag: undefined }, 'tag'],
    ['a field that is not known', { colour: 'red' }, 'colour'],
    ['a kind that cannot be one', { kind: 'Toaster!' }, 'kind'],
    ['a reserved unit', { unitId: 250 }, 'unitId'],
    ['a unit that is a text', { unitId: '1' }, 'unitId'],
    ['a tag of spaces', { tag: '   ' }, 'tag'],
    ['a line break in a line', { what: 'a\nb' }, 'what'],
    ['a mask of 33 bits', { port: { ...port, prefix: 33 } }, 'port.prefix'],
    ['a port number of 0', { port: { ...port, tcpPort: 0 } }, 'port.tcpPort'],
  ])('%s is told with its place', (_what, change, where) => {
    const found = problems(newDevice, { ...device, ...change })
    expect(found.map((problem) => problem.where)).toContain(where)
    expect(found.every((problem) => problem.what !== '' && problem.expected !== '')).toBe(true)
  })

  test('a change must name the version that was looked at, and change something', () => {
    expect(problems(portPatch, { address: '10.20.40.4' })).toMatchObject([{ where: 'version' }])
    expect(problems(portPatch, { version: 1 })).toHaveLength(1)
    expect(problems(portPatch, { version: 1, address: null })).toEqual([])
  })

  test('a VLAN has 12 bits less its two reserved numbers (IEEE 802.1Q)', () => {
    const network = { name: 'lan', cidr: '10.0.0.0/24', gateway: null, vlan: null, dhcp: '', reserved: '' }
    for (const [vlan, good] of [
      [1, true],
      [4094, true],
      [0, false],
      [4095, false],
    ] as const) {
      expect(problems(newNetwork, { ...network, vlan }).length === 0).toBe(good)
    }
  })

  test('evidence by word of mouth: only for rungs that a person can see', () => {
    const seen = { verdict: 'proven', how: 'seen', value: 'lamp steady' }
    expect(problems(newEvidence, { ...seen, rung: 'powered' })).toEqual([])
    for (const rung of ['reached', 'agreed', 'reading'])
      expect(problems(newEvidence, { ...seen, rung })).toHaveLength(1)
    expect(problems(newEvidence, { ...seen, rung: 'powered', value: '' })).toHaveLength(1)
  })

  test('a reading names readings, it does not bring values', () => {
    const named = {
      pointId: '6f1c2b1e-8f5e-4b8e-9f5b-0d8f0f6a1b11',
      deviceReading: 5,
      controllerReading: null,
      controllerTyped: '230',
      shownTyped: null,
      typedAt: 1,
    }
    expect(problems(readingEvidence, named)).toEqual([])
    expect(problems(readingEvidence, { ...named, value: 230 })).toMatchObject([{ where: 'value' }])
  })

  test('a term for the first time has version 0', () => {
    expect(problems(termPut, { text: 'ABCD', notation: null, origin: '', version: 0 })).toEqual([])
    expect(problems(termPut, { text: 'x'.repeat(61), notation: null, origin: '', version: 0 })).toHaveLength(1)
  })
})
