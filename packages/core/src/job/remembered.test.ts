import { claspOf, type ClaspRow, type End, type TermId } from '../terms'
import {
  sampleDevice,
  sampleEvidence,
  sampleHandshake,
  sampleJob,
  sampleLine,
  sampleNetwork,
  sampleTerm,
} from './fixtures'
import { handshakeLadderOf } from './handshakeLadder'
import { handshakeTermsOf, termContextOf } from './handshakeTerms'
import type { Device, DeviceNode, Handshake, Job, SeenTerm } from './model'
import { claspFor, ladderFor, standingFor } from './standing'
import { standingOfRow } from './termStandings'

const node = (id: string, lineId: string, number: number | null): DeviceNode => ({
  id,
  lineId,
  node: number,
  name: '',
  isMaster: false,
  version: 1,
})
const behind = (tag: string, head: string, more: Partial<Device> = {}) =>
  sampleDevice(tag, null, { behindId: head, ports: [], ...more })
const plugged = (tag: string, inputBytes: number) =>
  behind(tag, 'HEAD', { kind: 'module', unitId: null, inputBytes, outputBytes: 2 })

const seen = (subjectId: string, termId: TermId, end: End, standing: SeenTerm['standing'], text: string): SeenTerm => ({
  ...{ id: `${subjectId} ${termId}`, version: 1, who: 'R. Osei', at: 1, how: 'read-live', origin: '', notation: null },
  ...{ subjectId, termId, end, standing, text },
})

/** Everything that a clasp and a ladder can rest on, once: a gateway with a line, a head with modules, a bus. */
const plant: Job = sampleJob({
  networks: [sampleNetwork(), sampleNetwork({ id: 'second', name: 'second', cidr: '10.20.0.0/16' })],
  lines: [
    sampleLine({ id: 'L', name: 'serial', timeoutMs: 500, retries: 2, gatewayMs: 20 }),
    sampleLine({ id: 'F', name: 'bus', medium: 'field-bus', family: 'decimal-0-125', settings: '' }),
  ],
  devices: [
    sampleDevice('PLC', '10.20.40.10', { kind: 'controller', nodes: [node('n-plc', 'F', 1)] }),
    sampleDevice('GW', '10.20.40.40', { kind: 'gateway', nodes: [node('n-gw', 'L', null)] }),
    behind('A', 'GW', { nodes: [node('n-a', 'L', 1)], unitId: 1 }),
    behind('B', 'GW', { nodes: [node('n-b', 'L', 2)], unitId: 2 }),
    behind('S', 'GW', { nodes: [node('n-s', 'L', 3)], unitId: 3 }),
    sampleDevice('HEAD', '10.20.40.50', { kind: 'remote-io', firmwareFound: '2.1', hostName: 'head' }),
    plugged('M1', 4),
    sampleDevice('N', null, { ports: [], nodes: [node('n-n', 'F', 7)] }),
    sampleDevice('O', null, { ports: [], nodes: [node('n-o', 'F', 7)] }),
  ],
  handshakes: [
    sampleHandshake('PLC', 'A', {
      points: [],
      terms: [
        sampleTerm('termination', 'device', 'end-on'),
        sampleTerm('termination', 'controller', 'end-on'),
        sampleTerm('unit-loads', 'device', '1'),
        sampleTerm('line-settings', 'device', '9600 8N1'),
      ],
    }),
    sampleHandshake('PLC', 'B', {
      points: [],
      terms: [
        sampleTerm('termination', 'controller', 'end-on'),
        sampleTerm('termination', 'device', 'between-off'),
        sampleTerm('bias', 'device', 'on'),
      ],
    }),
    sampleHandshake('PLC', 'HEAD', {
      points: [],
      exchange: 'cyclic',
      terms: [sampleTerm('input-size', 'controller', '4 bytes'), sampleTerm('address', 'controller', '10.20.40.50')],
    }),
    sampleHandshake('PLC', 'N', { points: [], exchange: 'bus', terms: [sampleTerm('node', 'controller', '7')] }),
    sampleHandshake('PLC', 'O', { points: [], exchange: 'bus', terms: [sampleTerm('node', 'controller', '8')] }),
  ],
  standings: [
    seen('HEAD-port', 'address', 'device', 'found', '10.20.40.51'),
    seen('L', 'line-settings', 'controller', 'entered', '9600 8N1'),
  ],
  evidence: [
    sampleEvidence('handshake', 'PLC-HEAD', 'reached', { basis: { 'address.device': '10.20.40.50' } }),
    sampleEvidence('device', 'A', 'powered'),
  ],
})

type Path = readonly (string | number)[]

/** The same with one value put in another's place, as an edit does it: what is not on the way there stays the same piece. */
function put(whole: unknown, [key, ...rest]: Path, value: unknown): unknown {
  if (key === undefined) return value
  if (Array.isArray(whole)) return whole.map((each, k) => (k === key ? put(each, rest, value) : each))
  const before = whole as Record<string, unknown>
  return { ...before, [key]: put(before[key], rest, value) }
}

function leavesOf(value: unknown, path: Path = []): readonly (readonly [Path, unknown])[] {
  if (value === null || typeof value !== 'object') return [[path, value]]
  return Object.entries(value).flatMap(([key, each]) =>
    leavesOf(each, [...path, Array.isArray(value) ? Number(key) : key]),
  )
}

/** What ties rows to each other, and what is judged over several of them. */
const LINKS = new Set(['lineId', 'behindId', 'networkId', 'unitId', 'node', 'text'])

/** What else a value may be: something new; of a link also nothing, and what stands under its name somewhere else. */
function othersOf(name: string, value: unknown, all: ReadonlyMap<string, ReadonlySet<unknown>>): readonly unknown[] {
  const fresh = typeof value === 'number' ? value + 1 : typeof value === 'boolean' ? !value : `${String(value ?? '')}1`
  const more = LINKS.has(name) ? [null, ...(all.get(name) ?? [])] : []
  return [...new Set([fresh, ...more])].filter((each) => each !== value)
}

/** What is remembered of a handshake, or what is computed of it anew, as one text. */
function told(job: Job, handshake: Handshake, isRemembered: boolean): string {
  if (isRemembered) {
    const parts = [claspFor(job, handshake), [...standingFor(job, handshake)], ladderFor(job, handshake)]
    return JSON.stringify(parts)
  }
  const terms = handshakeTermsOf(job, handshake)
  const clasp = claspOf(termContextOf(job, handshake))
  const standing = (row: ClaspRow) => standingOfRow(job, handshake, row, terms)
  const ladder = handshakeLadderOf(job, handshake, { terms, clasp, standing })
  return JSON.stringify([clasp, clasp.rows.map((row) => [row.id, standing(row)]), ladder])
}

/** All of a job anew, from rows that nothing remembers; `undefined` where there can be no such job. */
function anew(job: Job): readonly string[] | undefined {
  const own = structuredClone(job)
  try {
    return own.handshakes.map((each) => told(own, each, false))
  } catch {
    return undefined
  }
}

/** Every edit of one value and every row that goes, each told in words. */
function editsOf(job: Job): readonly (readonly [string, Job])[] {
  const leaves = leavesOf(job)
  const named = new Map<string, Set<unknown>>()
  for (const [path, value] of leaves) {
    const name = String(path.at(-1))
    named.set(name, (named.get(name) ?? new Set()).add(value))
  }
  const edits = leaves.flatMap(([path, value]) =>
    othersOf(String(path.at(-1)), value, named).map(
      (other) => [`${path.join('.')} = ${String(other)}`, put(job, path, other) as Job] as const,
    ),
  )
  const gone = (['networks', 'lines', 'devices', 'handshakes', 'standings', 'evidence'] as const).flatMap((table) =>
    job[table].map(({ id }, k) => [`without ${table} ${id}`, { ...job, [table]: job[table].toSpliced(k, 1) }] as const),
  )
  return [...edits, ...gone]
}

test('after any one edit of anything, what is remembered is what is computed anew', () => {
  const before = new Map(anew(plant)?.map((text, k) => [plant.handshakes[k]?.id, text]))
  const stale: string[] = []
  let compared = 0
  let changed = 0
  for (const [what, next] of editsOf(plant)) {
    const right = anew(next)
    if (!right) continue
    // What is remembered before each edit is what was true of the plant.
    for (const each of plant.handshakes) ladderFor(plant, each)
    next.handshakes.forEach((each, k) => {
      compared += 1
      if (right[k] !== before.get(each.id)) changed += 1
      if (told(next, each, true) !== right[k]) stale.push(`${each.name} after ${what}`)
    })
  }
  expect(stale).toEqual([])
  // Mostly an edit concerns one handshake or none; without any that change something nothing would be tried here.
  expect(compared).toBeGreaterThan(4_000)
  expect(changed).toBeGreaterThan(400)
})
