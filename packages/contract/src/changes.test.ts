import { openLine } from '@calm/core/job/fixtures'
import { blankDevice, blankPort } from '@calm/core/job'
import { AT_ONCE, newRow, readChangeList } from './changes'

const id = (n: number) => `6f1c2b1e-8f5e-4b8e-9f5b-${String(n).padStart(12, '0')}`
const device = { ...blankDevice, position: 1, tag: 'X-1', kind: 'meter' }
const request = {
  about: 'range',
  what: 'Addresses',
  toWhom: 'network owner',
  deviceIds: [id(1)],
  askedOn: '2026-11-25',
  dueOn: null,
  answer: '',
  answeredOn: null,
}
const read = (...changes: readonly unknown[]) => readChangeList({ changes })
const problems = (...changes: readonly unknown[]) => {
  const reading = read(...changes)
  return reading.ok ? [] : reading.problems
}
const add = (table: string, fields: object) => ({ op: 'add', table, id: id(9), fields })
const set = (table: string, fields: object) => ({ op: 'set', table, id: id(9), version: 1, fields })

describe('a list of changes', () => {
  test('of every table is let through as it was sent', () => {
    const list = [
      add('network', {
        name: 'lan',
        cidr: '10.0.0.0/24',
        gateway: null,
        vlan: null,
        dhcp: '',
        reserved: '',
        school: 'static',
      }),
      add('line', {
        name: 'bus',
        medium: 'token-bus',
        family: 'octal-0-77',
        ...openLine,
      }),
      add('device', device),
      add('port', { ...blankPort, deviceId: id(1) }),
      add('node', { deviceId: id(1), lineId: id(2), name: '', node: 63, isMaster: false }),
      add('request', request),
      add('acceptance', { rule: 'address.duplicate', subjectId: id(3), found: '10.0.0.1', reason: 'until Friday' }),
      set('job', { addressRules: [{ kind: 'drive', first: 20, last: 39 }] }),
      set('device', { startUpSeconds: null, namePlaces: [{ where: 'server', text: '' }] }),
      { op: 'remove', table: 'device', id: id(9), version: 3 },
      { op: 'restore', table: 'device', id: id(9) },
    ]
    expect(read(...list)).toEqual({ ok: true, changes: list })
  })

  test('keeps a hardware address in one notation, whatever it was typed in', () => {
    const reading = read(set('port', { mac: '025e.0b10.7c14' }))
    expect(reading).toMatchObject({ ok: true, changes: [{ fields: { mac: '02:5E:0B:10:7C:14' } }] })
  })

  test.each<[string, object, string]>([
    ['a field that is none', set('device', { colour: 1 }), 'changes[0].fields.colour'],
    ['nothing to be set', set('device', {}), 'changes[0].fields'],
    ['a device without its tag', add('device', { ...device, tag: undefined }), 'changes[0].fields.tag'],
    ['a port without its device', add('port', blankPort), 'changes[0].fields.deviceId'],
    ['an address that is none', set('port', { address: '10.0.0.256' }), 'changes[0].fields.address'],
    ['a school that is none', set('network', { school: 'cloud' }), 'changes[0].fields.school'],
    ['a node that no bus has', set('node', { node: 256 }), 'changes[0].fields.node'],
    ['a family that is none', set('line', { family: 'hex' }), 'changes[0].fields.family'],
    ['a relation that is none', set('device', { firmwareRelation: 'about' }), 'changes[0].fields.firmwareRelation'],
    ['seconds in parts', set('device', { startUpSeconds: 2.5 }), 'changes[0].fields.startUpSeconds'],
    ['a day that is none', add('request', { ...request, dueOn: '2026-13-01' }), 'changes[0].fields.dueOn'],
    [
      'one device asked for twice',
      add('request', { ...request, deviceIds: [id(1), id(1)] }),
      'changes[0].fields.deviceIds[1]',
    ],
    ['no reason worth the name', set('acceptance', { reason: 'x' }), 'changes[0].fields.reason'],
    ['who accepted, said by the page', set('acceptance', { who: 'me', reason: 'because' }), 'changes[0].fields.who'],
    [
      'a block that ends before it begins',
      set('job', { addressRules: [{ kind: 'drive', first: 30, last: 20 }] }),
      'changes[0].fields.addressRules[0].last',
    ],
    ['no version', { op: 'set', table: 'device', id: id(9), fields: { note: 'x' } }, 'changes[0].version'],
    ['an id that is none', { op: 'restore', table: 'device', id: '7' }, 'changes[0].id'],
    ['more than it says', { op: 'restore', table: 'device', id: id(9), version: 1 }, 'changes[0].version'],
    ['a job that is to go', { op: 'remove', table: 'job', id: id(9), version: 1 }, 'changes[0]'],
    ['a table that is none', { op: 'set', table: 'user', id: id(9), version: 1, fields: {} }, 'changes[0]'],
  ])('with %s is refused at its place', (_what, change, where) => {
    const found = problems(change)
    expect(found.map((problem) => problem.where)).toContain(where)
    for (const problem of found) expect(problem.what === '' || problem.expected === '').toBe(false)
  })

  test('names every wrong change, each by its number', () => {
    const wrong = [set('device', { unitId: 250 }), add('device', device), set('device', { kind: 'No Kind' })]
    expect(problems(...wrong).map((problem) => problem.where)).toEqual([
      'changes[0].fields.unitId',
      'changes[2].fields.kind',
    ])
  })

  test('stops at two hundred problems: more help nobody', () => {
    const wrong = Array.from({ length: 500 }, () => set('device', { colour: 1 }))
    expect(problems(...wrong)).toHaveLength(200)
  })

  test('may be as long as a table of 5 000 devices with their ports, and no longer', () => {
    const one = set('device', { note: 'x' })
    expect(read(...Array.from({ length: AT_ONCE }, () => one)).ok).toBe(true)
    expect(problems(...Array.from({ length: AT_ONCE + 1 }, () => one))).toMatchObject([{ where: 'changes' }])
  })
})

test('the form of a line is held against the same schema', () => {
  expect(
    newRow('line').validate({
      name: 'bus',
      medium: 'rs-232',
      family: 'decimal-1-247',
      settings: '9600 8N1',
      laptopPort: '',
      timeoutMs: null,
      retries: null,
      gatewayMs: null,
    }).error,
  ).toBeUndefined()
  expect(
    newRow('line').validate(
      {
        name: '',
        medium: 'rope',
        family: 'decimal-1-247',
        ...openLine,
      },
      { abortEarly: false },
    ).error?.details,
  ).toHaveLength(2)
})

test.each([[{ op: { toString: 'x' } }], [{ op: 'set', table: { valueOf: null } }], [null], [7]])(
  'a change that is none, %j, is refused with what was found',
  (change) =>
    expect(readChangeList({ changes: [change] })).toMatchObject({ ok: false, problems: [{ where: 'changes[0]' }] }),
)
