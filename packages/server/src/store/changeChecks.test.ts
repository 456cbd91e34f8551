import { openLine } from '@calm/core/job/fixtures'
import { randomUUID } from 'node:crypto'
import { blankDevice, type Job } from '@calm/core/job'
import type { Change } from '@calm/core/changes'
import { openDatabase } from '../db'
import { heronMill } from '../demo'
import { applyChangeList } from './changeList'
import { readJob } from './readJob'
import { Refused } from './refusals'
import { Store } from './store'
import { writeNewJob } from './writeJob'

/** What must hold among the rows of a line-up, whoever asks for a change. */
let store: Store
let jobId: string
let job: Job
beforeEach(async () => {
  store = new Store(await openDatabase(':memory:'), () => 1_764_000_000_000)
  jobId = await store.write('R. Osei', (tx) => writeNewJob(tx, heronMill(1_764_000_000_000), 'begun'))
  job = await now()
})
afterEach(() => store.source.destroy())

const now = () => readJob(store.source.manager, jobId)
const apply = (...changes: readonly Change[]) => store.write('R. Osei', (tx) => applyChangeList(tx, jobId, changes))
const refusalOf = async (...changes: readonly Change[]) => {
  const before = await now()
  const reason = await apply(...changes).catch((caught: unknown) => caught)
  expect(await now()).toEqual(before)
  return reason instanceof Refused ? reason.problems[0] : reason
}
const device = (tag: string) => {
  const found = job.devices.find((each) => each.tag === tag)
  if (!found) throw new Error(tag)
  return found
}
const line = (name: string): Change => ({
  op: 'add',
  table: 'line',
  id: randomUUID(),
  fields: {
    name,
    medium: 'field-bus',
    family: 'decimal-0-125',
    ...openLine,
  },
})
const set = (table: 'device' | 'line', row: { id: string; version: number }, fields: object): Change => ({
  op: 'set',
  table,
  id: row.id,
  version: row.version,
  fields: { ...fields },
})

describe('names that are theirs alone', () => {
  test('two lines of a job cannot have one name', async () => {
    expect(await refusalOf(line('Scanner line'))).toMatchObject({ what: 'There is a line Scanner line already.' })
    const other = job.lines.find((each) => each.name === 'Pump house serial')
    if (!other) throw new Error('no line')
    expect(await refusalOf(set('line', other, { name: 'Scanner line' }))).toMatchObject({
      where: 'changes[0].fields.name',
    })
    await apply(set('line', other, { name: 'Pump house serial', settings: '19200 8E1' }))
  })

  test('a device that was removed comes back only while its tag is free', async () => {
    const old = device('EM-501')
    await apply({ op: 'remove', table: 'device', id: old.id, version: old.version })
    const twin = { ...blankDevice, position: 1, tag: 'EM-501', kind: 'meter' }
    await apply({ op: 'add', table: 'device', id: randomUUID(), fields: twin })
    expect(await refusalOf({ op: 'restore', table: 'device', id: old.id })).toMatchObject({
      what: 'There is a device EM-501 already.',
    })
  })
})

describe('what points to what', () => {
  test('a device names neither itself nor one of another job', async () => {
    const own = device('EM-501')
    expect(await refusalOf(set('device', own, { behindId: own.id }))).toMatchObject({
      where: 'changes[0].fields.behindId',
    })
    expect(await refusalOf(set('device', own, { firmwareOfId: own.id }))).toMatchObject({
      where: 'changes[0].fields.firmwareOfId',
    })
    expect(await refusalOf(set('device', own, { behindId: randomUUID() }))).toMatchObject({
      what: 'There is no such device in this job.',
    })
  })

  test('a node is on a line of the job, at a device of the job', async () => {
    const node = (fields: object): Change => ({
      op: 'add',
      table: 'node',
      id: randomUUID(),
      fields: {
        name: '',
        node: 1,
        isMaster: false,
        lineId: job.lines[0]?.id,
        deviceId: device('EM-501').id,
        ...fields,
      },
    })
    expect(await refusalOf(node({ lineId: randomUUID() }))).toMatchObject({ where: 'changes[0].fields.lineId' })
    expect(await refusalOf(node({ deviceId: randomUUID() }))).toMatchObject({ where: 'changes[0].fields.deviceId' })
    await apply(node({}))
    expect((await now()).devices.find((each) => each.tag === 'EM-501')?.nodes).toHaveLength(1)
  })

  test('a request names devices of the job', async () => {
    const fields = {
      about: 'other',
      what: 'Something',
      toWhom: '',
      deviceIds: [randomUUID()],
      askedOn: null,
      dueOn: null,
      answer: '',
      answeredOn: null,
    }
    const request: Change = { op: 'add', table: 'request', id: randomUUID(), fields }
    expect(await refusalOf(request)).toMatchObject({ where: 'changes[0].fields.deviceIds' })
  })
})

describe('out of sight, not out of the database', () => {
  test('a line takes its nodes out of sight and brings them back', async () => {
    const serial = job.lines.find((each) => each.name === 'Pump house serial')
    if (!serial) throw new Error('no line')
    await apply({ op: 'remove', table: 'line', id: serial.id, version: serial.version })
    expect((await now()).devices.every((each) => each.nodes.every((node) => node.lineId !== serial.id))).toBe(true)
    await apply({ op: 'restore', table: 'line', id: serial.id })
    expect((await now()).devices.map((each) => each.nodes)).toEqual(job.devices.map((each) => each.nodes))
  })

  test('a network lets its ports go and takes them back', async () => {
    const network = job.networks.find((each) => each.name === 'process')
    if (!network) throw new Error('no network')
    await apply({ op: 'remove', table: 'network', id: network.id, version: network.version })
    expect((await now()).devices.flatMap((each) => each.ports).filter((port) => port.networkId === network.id)).toEqual(
      [],
    )
    await apply({ op: 'restore', table: 'network', id: network.id })
    expect((await now()).devices.map((each) => each.ports)).toEqual(job.devices.map((each) => each.ports))
  })

  test('a row that was not removed cannot be brought back; one that is gone cannot go again', async () => {
    const own = device('EM-501')
    expect(await refusalOf({ op: 'restore', table: 'device', id: own.id })).toMatchObject({
      what: 'This device was not removed.',
    })
    await apply({ op: 'remove', table: 'device', id: own.id, version: own.version })
    const again: Change = { op: 'remove', table: 'device', id: own.id, version: own.version + 1 }
    expect(await refusalOf(again)).toMatchObject({ what: 'There is no such device.' })
  })
})
