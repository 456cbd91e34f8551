import { openLine } from '@calm/core/job/fixtures'
import { randomUUID } from 'node:crypto'
import { isDeepStrictEqual } from 'node:util'
import { readChangeList } from '@calm/contract'
import { jobFileOf, readJobFile } from '@calm/contract/jobFile'
import { blankDevice, blankPoint, blankPort, type Job } from '@calm/core/job'
import { changesBack, wayBackOf, type Change, type WayBack } from '@calm/core/changes'
import fc from 'fast-check'
import { openDatabase } from '../db'
import { heronMill } from '../demo'
import { firstBroken } from './chain'
import { applyChangeList } from './changeList'
import { readJob } from './readJob'
import { Refused } from './refusals'
import { Store } from './store'
import { writeNewJob } from './writeJob'

let store: Store
let jobId: string
beforeAll(async () => {
  store = new Store(await openDatabase(':memory:'), () => 1_764_000_000_000)
  jobId = await store.write('R. Osei', (tx) => writeNewJob(tx, heronMill(1_764_000_000_000), 'begun'))
})
afterAll(() => store.source.destroy())

const now = (): Promise<Job> => readJob(store.source.manager, jobId)
/** As the route does it: through the schema first. */
const apply = async (changes: readonly Change[]): Promise<void> => {
  const reading = readChangeList(JSON.parse(JSON.stringify({ changes })))
  if (!reading.ok) throw new Refused(400, reading.problems)
  await store.write('R. Osei', (tx) => applyChangeList(tx, jobId, reading.changes))
  // What is kept in memory is what the database says, whatever was changed.
  const [kept, read] = [await store.jobs.get(jobId), await now()]
  // Of thousands of rows only what differs is worth the long comparison that says where.
  if (!isDeepStrictEqual(kept, read)) expect(kept).toEqual(read)
}
const refusedAt = async (changes: readonly Change[]): Promise<string | undefined> => {
  const reason = await apply(changes).catch((caught: unknown) => caught)
  return reason instanceof Refused ? reason.problems[0]?.where : undefined
}
/** A job without what counts up: versions. */
const content = (job: Job) => JSON.parse(JSON.stringify(job, (name, value) => (name === 'version' ? undefined : value)))

const newDevice = (tag: string, more: object = {}): Change => ({
  op: 'add',
  table: 'device',
  id: randomUUID(),
  fields: { ...blankDevice, position: 99, tag, kind: 'meter', ...more },
})

describe('many changes at once', () => {
  test('a device that hangs behind one that comes later in the list finds it', async () => {
    const gateway = newDevice('T-GW')
    const child = newDevice('T-1', { behindId: gateway.id })
    await apply([child, gateway])
    const job = await now()
    expect(job.devices.find((each) => each.tag === 'T-1')?.behindId).toBe(gateway.id)
    await apply([
      { op: 'remove', table: 'device', id: child.id, version: 1 },
      { op: 'remove', table: 'device', id: gateway.id, version: 1 },
    ])
  })

  test('one that cannot be keeps all back, and is named by its place', async () => {
    const before = await now()
    const nobody = randomUUID()
    expect(await refusedAt([newDevice('T-3'), newDevice('EM-501')])).toBe('changes[1].fields.tag')
    expect(await refusedAt([newDevice('T-3'), newDevice('T-3')])).toBe('changes[1].fields.tag')
    expect(await refusedAt([newDevice('T-3'), newDevice('T-4', { behindId: nobody })])).toBe(
      'changes[1].fields.behindId',
    )
    expect(await refusedAt([newDevice('T-3'), newDevice('T-4', { unitId: 250 })])).toBe('changes[1].fields.unitId')
    expect(await refusedAt([newDevice('T-3'), newDevice('T-4', { kind: 'toaster' })])).toBe('changes[1].fields.kind')
    expect(await refusedAt([newDevice('T-3'), { op: 'remove', table: 'port', id: nobody, version: 1 }])).toBe(
      'changes[1].fields.id',
    )
    expect(await now()).toEqual(before)
  })

  test('a row of another job cannot be reached through this one', async () => {
    const other = await store.write('a', (tx) => writeNewJob(tx, heronMill(1_764_000_000_000), 'begun'))
    const foreign = (await readJob(store.source.manager, other)).devices[0]
    if (!foreign) throw new Error('no device')
    const set: Change = { op: 'set', table: 'device', id: foreign.id, version: 1, fields: { tag: 'STOLEN' } }
    await expect(apply([set])).rejects.toBeInstanceOf(Refused)
    expect((await readJob(store.source.manager, other)).devices[0]?.tag).toBe(foreign.tag)
  })

  test('five thousand devices are one line of the log, and the chain holds', async () => {
    const list = Array.from({ length: 5_000 }, (_, k) => {
      const device = newDevice(`BIG-${k}`)
      const port: Change = { op: 'add', table: 'port', id: randomUUID(), fields: { ...blankPort, deviceId: device.id } }
      return [device, port]
    }).flat()
    await apply(list)
    expect((await now()).devices.length).toBeGreaterThan(5_000)
    const entries = await store.source.query('SELECT * FROM log_entry WHERE jobId = ? ORDER BY sequence', [jobId])
    expect(entries.at(-1).what).toBe('10000 changes: 5000 devices added, 5000 ports added')
    expect(firstBroken(entries)).toBeUndefined()
    await apply(
      list.filter((each) => each.table === 'device').map(({ id, table }) => ({ op: 'remove', table, id, version: 1 })),
    )
  }, 60_000)

  test('a list of nothing, of too much, of tables that are none is refused as such', () => {
    const whereOf = (body: unknown) => {
      const reading = readChangeList(body)
      return reading.ok ? undefined : reading.problems.map((problem) => problem.where)
    }
    expect(whereOf(undefined)).toEqual(['changes'])
    expect(whereOf({ changes: [] })).toEqual(['changes'])
    expect(whereOf({ changes: Array.from({ length: 15_001 }, () => ({})) })).toEqual(['changes'])
    expect(whereOf({ changes: [{ op: 'drop', table: 'job', id: jobId }, null] })).toEqual(['changes[0]', 'changes[1]'])
    expect(whereOf({ changes: [{ op: 'remove', table: 'job', id: jobId, version: 1 }] })).toEqual(['changes[0]'])
  })
})

/** Something a person might do to the job as it stands. */
type Deed = (job: Job, seed: number) => readonly Change[]
const pick = <T>(list: readonly T[], seed: number): T | undefined => list[seed % Math.max(1, list.length)]

const deeds: Readonly<Record<string, Deed>> = {
  rename: (job, seed) => {
    const row = pick(job.devices, seed)
    const fields = {
      tag: `N-${seed}-${job.devices.length}`,
      place: `panel ${seed}`,
      namePlaces: [{ where: 'server', text: `n${seed}` }],
    }
    return row ? [{ op: 'set', table: 'device', id: row.id, version: row.version, fields }] : []
  },
  moveMany: (job, seed) =>
    job.devices.flatMap(({ ports: [port] }, k): Change[] =>
      port && k % 3 === seed % 3
        ? [
            {
              op: 'set',
              table: 'port',
              id: port.id,
              version: port.version,
              fields: { address: `10.20.40.${100 + k}`, mac: null },
            },
          ]
        : [],
    ),
  add: (job, seed) => {
    const device = newDevice(`ADD-${seed}-${job.devices.length}`, { startUpSeconds: seed })
    const fields = { ...blankPort, address: `10.20.41.${seed % 250}`, deviceId: device.id }
    return [device, { op: 'add', table: 'port', id: randomUUID(), fields }]
  },
  remove: (job, seed) => {
    const row = pick(job.devices, seed)
    return row ? [{ op: 'remove', table: 'device', id: row.id, version: row.version }] : []
  },
  removeNetwork: (job, seed) => {
    const row = pick(job.networks, seed)
    return row ? [{ op: 'remove', table: 'network', id: row.id, version: row.version }] : []
  },
  lineWithNode: (job, seed) => {
    const [line, device] = [randomUUID(), pick(job.devices, seed)]
    const fields = {
      name: `bus ${seed}-${job.lines.length}`,
      medium: 'token-bus',
      family: 'octal-0-77',
      ...openLine,
    }
    const node = { lineId: line, name: '', node: seed % 64, isMaster: false, deviceId: device?.id }
    return device
      ? [
          { op: 'add', table: 'line', id: line, fields },
          { op: 'add', table: 'node', id: randomUUID(), fields: node },
        ]
      : []
  },
  ask: (_job, seed) => {
    const fields = {
      about: 'order-code',
      what: `Order code ${seed}`,
      toWhom: 'buyer',
      deviceIds: [],
      askedOn: null,
      dueOn: null,
      answer: '',
      answeredOn: null,
    }
    return [{ op: 'add', table: 'request', id: randomUUID(), fields }]
  },
  term: (job, seed) => {
    const handshake = pick(job.handshakes, seed)
    const term = handshake && pick(handshake.terms, seed)
    if (!handshake || !term) return []
    if (seed % 3 === 0) return [{ op: 'remove', table: 'term', id: term.id, version: term.version }]
    return [{ op: 'set', table: 'term', id: term.id, version: term.version, fields: { text: `t${seed}` } }]
  },
  point: (job, seed) => {
    const handshake = pick(job.handshakes, seed)
    const point = handshake && pick(handshake.points, seed)
    if (!handshake) return []
    const id = randomUUID()
    const fields = { ...blankPoint(`P${seed}`), position: seed % 4, handshakeId: handshake.id }
    const added: Change = { op: 'add', table: 'point', id, fields }
    if (!point || seed % 2 === 0) return [added]
    const tolerance = { kind: 'absolute', amount: seed }
    return [
      added,
      { op: 'set', table: 'point', id: point.id, version: point.version, fields: { tolerance, asked: seed % 5 === 0 } },
    ]
  },
  handshake: (job, seed) => {
    const row = pick(job.handshakes, seed)
    return row ? [{ op: 'remove', table: 'handshake', id: row.id, version: row.version }] : []
  },
  blocks: (job, seed) => [
    {
      op: 'set',
      table: 'job',
      id: job.id,
      version: job.version,
      fields: { addressRules: [{ kind: 'drive', first: seed % 100, last: 200 }] },
    },
  ],
}

describe('undo', () => {
  test('of any sequence of edits, one after the other, restores the job exactly; redo brings it all back', async () => {
    const step = fc.record({ deed: fc.constantFrom(...Object.keys(deeds)), seed: fc.nat(500) })
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 7 }), async (steps) => {
        const before = content(await now())
        const back: WayBack[] = []
        for (const { deed, seed } of steps) {
          const job = await now()
          const changes = deeds[deed]?.(job, seed) ?? []
          if (changes.length === 0) continue
          back.push(wayBackOf(job, changes))
          await apply(changes)
        }
        const after = content(await now())
        const forth: WayBack[] = []
        for (const way of [...back].reverse()) forth.push(await takeBack(way))
        expect(content(await now())).toEqual(before)
        for (const way of [...forth].reverse()) await takeBack(way)
        expect(content(await now())).toEqual(after)
        for (const way of [...back].reverse()) await takeBack(way)
      }),
      { numRuns: 25 },
    )
  }, 120_000)

  const takeBack = async (way: WayBack): Promise<WayBack> => {
    const job = await now()
    const changes = changesBack(job, way)
    if (!changes.ok) throw new Error(changes.refusal.what)
    const again = wayBackOf(job, changes.value)
    await apply(changes.value)
    return again
  }

  test('is refused where somebody else has changed the row since, and theirs stays', async () => {
    const job = await now()
    const device = job.devices[0]
    if (!device) throw new Error('no device')
    const mine: Change = {
      op: 'set',
      table: 'device',
      id: device.id,
      version: device.version,
      fields: { place: 'mine' },
    }
    const way = wayBackOf(job, [mine])
    await apply([mine])
    await apply([{ ...mine, version: device.version + 1, fields: { place: 'theirs' } }])
    const back = changesBack(await now(), way)
    expect(back).toMatchObject({ ok: false, refusal: { code: 'undo.changed', found: 'theirs' } })
  })
})

test('import of an export is the same job, with lines, nodes, kinds, requests and acceptances', async () => {
  const job = await now()
  const reading = readJobFile(JSON.stringify(jobFileOf(job, '2026-01-01T00:00:00.000Z')))
  if (!reading.ok) throw new Error(JSON.stringify(reading.problems))
  expect(reading.job).toEqual(job)
  const copy = await store.write('a', (tx) => writeNewJob(tx, reading.job, 'imported'))
  const read = await readJob(store.source.manager, copy)
  /** Ids are new ones; what they point to is told by names. */
  const byName = (each: Job) => {
    const names = new Map<string, string>([
      ...each.devices.map((row) => [row.id, row.tag] as const),
      ...each.networks.map((row) => [row.id, row.name] as const),
      ...each.lines.map((row) => [row.id, row.name] as const),
    ])
    const isId = (value: unknown) => typeof value === 'string' && /^[0-9a-f]{8}-[0-9a-f]{4}-4/.test(value)
    return JSON.parse(
      JSON.stringify(each, (_, value) => (isId(value) ? (names.get(value) ?? 'id') : value === 1 ? 'one' : value)),
    )
  }
  expect(content(byName(read))).toEqual(content(byName(job)))
})
