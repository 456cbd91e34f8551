import Joi from 'joi'
import { blankDevice, blankPort, networkFields } from '@calm/core/job'
import { readChangeList } from './changes'
import { address } from './fields'
import { foundText, pathText, problemsOf } from './problem'
import { newEvidence, readingEvidence } from './requests'
import { schemaOf } from './rowSchemas'

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
    const ranges = schemaOf(networkFields.dhcp)
    expect(problems(ranges, '10.0.0.1-5, 10.0.0.9-2')).toMatchObject([
      { what: expect.stringMatching(/ends before it begins/) },
    ])
    expect(problems(ranges, '')).toEqual([])
  })
})

describe('what may be sent', () => {
  const id = '6f1c2b1e-8f5e-4b8e-9f5b-0d8f0f6a1b11'
  const device = { ...blankDevice, position: 1, tag: 'X-1', kind: 'meter', unitId: 1 }
  const port = { ...blankPort, deviceId: id, address: '10.20.40.4' }
  const told = (change: object) => {
    const reading = readChangeList({ changes: [{ id, ...change }] })
    return reading.ok ? [] : reading.problems
  }

  test('a whole device', () => expect(told({ op: 'add', table: 'device', fields: device })).toEqual([]))

  test.each<[string, 'device' | 'port', object, string]>([
    ['a missing field', 'device', { tag: undefined }, 'tag'],
    ['a field that is not known', 'device', { colour: 'red' }, 'colour'],
    ['a kind that cannot be one', 'device', { kind: 'Toaster!' }, 'kind'],
    ['a reserved unit', 'device', { unitId: 250 }, 'unitId'],
    ['a unit above all', 'device', { unitId: 256 }, 'unitId'],
    ['a unit that is a text', 'device', { unitId: '1' }, 'unitId'],
    ['a tag of spaces', 'device', { tag: '   ' }, 'tag'],
    ['a line break in a line', 'device', { what: 'a\nb' }, 'what'],
    ['a mask of 33 bits', 'port', { prefix: 33 }, 'prefix'],
    ['a port number of 0', 'port', { tcpPort: 0 }, 'tcpPort'],
  ])('%s is told with its place', (_what, table, change, where) => {
    const fields = table === 'device' ? device : port
    const found = told({ op: 'add', table, fields: { ...fields, ...change } })
    expect(found.map((problem) => problem.where)).toContain(`changes[0].fields.${where}`)
    expect(found.every((problem) => problem.what !== '' && problem.expected !== '')).toBe(true)
  })

  test('a unit that nobody has is told in words of its own', () => {
    const what = (unitId: number) => told({ op: 'add', table: 'device', fields: { ...device, unitId } })[0]?.what
    expect(what(250)).toBe('Unit id 250 is reserved. Use 1 to 247, or 255 for the device itself.')
    expect(what(300)).toBe('Unit id 300 is above 255. Use 1 to 247, or 255 for the device itself.')
  })

  test('a change must name the version that was looked at, and change something', () => {
    const set = (fields: object, more: object = {}) => told({ op: 'set', table: 'port', fields, ...more })
    expect(set({ address: '10.20.40.4' })).toMatchObject([{ where: 'changes[0].version' }])
    expect(set({}, { version: 1 })).toHaveLength(1)
    expect(set({ address: null }, { version: 1 })).toEqual([])
  })

  test('a VLAN has 12 bits less its two reserved numbers (IEEE 802.1Q)', () => {
    for (const [vlan, good] of [
      [1, true],
      [4094, true],
      [0, false],
      [4095, false],
    ] as const) {
      expect(problems(schemaOf(networkFields.vlan), vlan).length === 0).toBe(good)
    }
  })

  test('a term stays the term that it is; its value has at most 60 characters', () => {
    const fields = { termId: 'word-order', end: 'device', text: 'ABCD', notation: null, origin: '', handshakeId: id }
    expect(told({ op: 'add', table: 'term', fields })).toEqual([])
    expect(told({ op: 'add', table: 'term', fields: { ...fields, handshakeId: undefined } })).toHaveLength(1)
    expect(told({ op: 'add', table: 'term', fields: { ...fields, termId: 'colour' } })).toHaveLength(1)
    expect(told({ op: 'set', table: 'term', version: 1, fields: { end: 'controller' } })).toHaveLength(1)
    expect(told({ op: 'set', table: 'term', version: 1, fields: { text: 'x'.repeat(61) } })).toHaveLength(1)
  })

  test('where a device keeps a point: a scale of 0 would make everything 0', () => {
    const source = { register: '40001', type: 'float32', order: 'ABCD', scale: 0 }
    expect(told({ op: 'set', table: 'point', version: 1, fields: { source } })).toMatchObject([
      { where: 'changes[0].fields.source.scale' },
    ])
    expect(told({ op: 'set', table: 'point', version: 1, fields: { source: { ...source, scale: 0.1 } } })).toEqual([])
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
})
