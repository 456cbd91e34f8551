import fc from 'fast-check'
import { blankDevice, blankPort, type Job } from '../job'
import { openLine, sampleDevice, sampleHandshake, sampleJob } from '../job/fixtures'
import { applyChanges, changesBack, rowIn, wayBackOf, type Change } from '.'

const job = sampleJob({
  lines: [
    {
      id: 'L',
      name: 'bus',
      medium: 'field-bus',
      family: 'decimal-0-125',
      ...openLine,
      version: 1,
    },
  ],
  devices: [
    sampleDevice('A', '10.20.40.10', { kind: 'controller' }),
    sampleDevice('B', '10.20.40.11', { behindId: 'A' }),
    sampleDevice('C', null, { ports: [] }),
  ],
  handshakes: [sampleHandshake('A', 'B')],
})
const set = (id: string, fields: object, version = 1): Change => ({
  op: 'set',
  table: 'device',
  id,
  version,
  fields: { ...fields },
})
const addDevice = (id: string): Change => ({
  op: 'add',
  table: 'device',
  id,
  fields: { ...blankDevice, position: 9, tag: id, kind: 'meter' },
})
const addPort = (id: string, deviceId: string): Change => ({
  op: 'add',
  table: 'port',
  id,
  fields: { ...blankPort, deviceId },
})
const content = (each: Job) =>
  JSON.parse(JSON.stringify(each, (name, value) => (name === 'version' ? undefined : value)))

describe('changes of a job', () => {
  test('a row that is set goes one version on', () => {
    const after = applyChanges(job, [set('A', { place: 'panel 1' }), set('A', { place: 'panel 2' }, 2)])
    expect(rowIn(after, 'device', 'A')).toMatchObject({ place: 'panel 2', version: 3 })
    expect(after.devices[1]).toBe(job.devices[1])
  })

  test('devices, their ports and nodes are added together, many as well as one', () => {
    const node: Change = {
      op: 'add',
      table: 'node',
      id: 'n',
      fields: { deviceId: 'D', lineId: 'L', name: '', node: 3, isMaster: false },
    }
    const after = applyChanges(job, [addDevice('D'), addPort('p1', 'D'), addPort('p2', 'D'), node, addPort('p3', 'C')])
    expect(after.devices.find((each) => each.id === 'D')).toMatchObject({
      ports: [{ id: 'p1' }, { id: 'p2' }],
      nodes: [{ id: 'n', node: 3 }],
    })
    expect(after.devices.find((each) => each.id === 'C')?.ports).toMatchObject([{ id: 'p3', version: 1 }])
    expect(applyChanges(job, [addPort('p4', 'C')]).devices[2]?.ports).toHaveLength(1)
  })

  test('a device that goes takes its handshakes along and leaves nobody hanging behind it', () => {
    const after = applyChanges(job, [{ op: 'remove', table: 'device', id: 'A', version: 1 }])
    expect(after.handshakes).toEqual([])
    expect(after.devices.find((each) => each.id === 'B')?.behindId).toBeNull()
  })

  test('the job itself, a line, a network are rows too', () => {
    const after = applyChanges(job, [
      { op: 'set', table: 'job', id: 'job', version: 1, fields: { place: 'hall' } },
      { op: 'remove', table: 'line', id: 'L', version: 1 },
      { op: 'set', table: 'network', id: 'process', version: 1, fields: { vlan: 40 } },
    ])
    expect(after).toMatchObject({ place: 'hall', version: 2, lines: [], networks: [{ vlan: 40 }] })
  })
})

describe('the way back', () => {
  const back = (changes: readonly Change[]) => {
    const after = applyChanges(job, changes)
    const way = changesBack(after, wayBackOf(job, changes))
    if (!way.ok) throw new Error(way.refusal.what)
    return { after, changes: way.value }
  }

  test('several changes of one row come back one after the other', () => {
    const { after, changes } = back([set('A', { place: 'x' }), set('A', { place: 'y', note: 'n' }, 2)])
    expect(changes).toEqual([
      { op: 'set', table: 'device', id: 'A', version: 3, fields: { place: 'x', note: '' } },
      { op: 'set', table: 'device', id: 'A', version: 4, fields: { place: '' } },
    ])
    expect(content(applyChanges(after, changes))).toEqual(content(job))
  })

  test('a new device goes as a whole: its ports and what was changed of it need no step of their own', () => {
    const { after, changes } = back([addDevice('D'), addPort('p', 'D'), set('D', { behindId: 'A' })])
    expect(changes).toEqual([{ op: 'remove', table: 'device', id: 'D', version: 2 }])
    expect(content(applyChanges(after, changes))).toEqual(content(job))
  })

  test('is refused where the row is gone, or was changed by somebody since', () => {
    const way = wayBackOf(job, [set('C', { place: 'x' })])
    const gone = applyChanges(job, [{ op: 'remove', table: 'device', id: 'C', version: 1 }])
    expect(changesBack(gone, way)).toMatchObject({ ok: false, refusal: { code: 'undo.gone' } })
    const changed = applyChanges(job, [set('C', { place: 'theirs' })])
    expect(changesBack(changed, way)).toMatchObject({
      ok: false,
      refusal: { code: 'undo.changed', found: 'theirs', expected: 'x' },
    })
  })

  test('of anything but a removal brings the page’s own copy back exactly', () => {
    const text = fc.constantFrom('', 'x', 'panel 1')
    const change = fc.oneof(
      fc
        .record({ id: fc.constantFrom('A', 'B', 'C'), place: text, note: text })
        .map(({ id, ...fields }) => ({ id, fields })),
      fc.nat(5).map((k) => ({ id: `N${k}`, fields: undefined })),
    )
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), (wanted) => {
        let now = job
        const changes: Change[] = []
        for (const { id, fields } of wanted) {
          const row = rowIn(now, 'device', id)
          if (fields === undefined && row) continue
          const next = fields === undefined ? addDevice(id) : set(id, fields, row?.version)
          changes.push(next)
          now = applyChanges(now, [next])
        }
        expect(content(applyChanges(job, changes))).toEqual(content(now))
        const way = changesBack(now, wayBackOf(job, changes))
        expect(way.ok && content(applyChanges(now, way.value))).toEqual(content(job))
      }),
    )
  })
})
