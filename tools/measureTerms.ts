import { applyChanges } from '@calm/core/changes'
import { claspFor, ladderFor, standingFor, termMatrixOf, type Job, type Term } from '@calm/core/job'
import type { TermId } from '@calm/core/terms'
import type { Line } from './measured'
import { sampleDevice, sampleHandshake, sampleJob, sampleLine, sampleTerms } from '../packages/core/src/job/fixtures'

/** Terms that people may say of a Modbus handshake, with a value that agrees at both ends: forty in all. */
const said: Readonly<Partial<Record<TermId, string>>> = {
  ...{ address: '10.1.1.1', 'address-way': 'fixed', port: '502', 'page-scheme': 'http', 'unit-id': '1' },
  ...{ service: 'on', connections: '2', variant: 'tcp', 'function-code': '03' },
  ...{
    'first-register': '10',
    count: '2',
    'largest-read': '60',
    timeout: '1000',
    retries: '1',
    'poll-interval': '500',
  },
  ...{ 'data-type': 'float32', 'word-order': 'ABCD', scale: '0.1', 'pulses-per-unit': '1000' },
  ...{ firmware: '2.1', hardware: '3', 'programming-tool': '12', 'setup-tool': '5', driver: '2' },
  ...{ name: 'em-1', 'order-code': 'E-1', 'serial-number': '42', 'linked-id': '2', 'clock-zone': 'UTC' },
  ...{ 'config-run': 'run', 'local-remote': 'remote', 'program-run': 'run', 'port-mode': 'protocol' },
  ...{ 'settings-keeper': 'device', 'send-scope': 'all', watchdog: '2000', 'fail-safe': 'off' },
  ...{ 'settings-writers': 'none', 'transformer-ratio': '200/5', mask: '255.255.255.0' },
}

/** A job of many handshakes, each with the same forty terms at both ends. */
export function manyTerms(count: number): Job {
  const devices = Array.from({ length: count }, (_, k) =>
    sampleDevice(`M${k}`, `10.${1 + Math.floor(k / 250)}.1.${1 + (k % 250)}`, {
      kind: 'meter',
      unitId: 1,
      // Thirty on a line.
      nodes: [
        { id: `n${k}`, lineId: `L${Math.floor(k / 30)}`, node: 1 + (k % 30), name: '', isMaster: false, version: 1 },
      ],
    }),
  )
  const own = (tag: string): readonly Term[] =>
    Object.entries(said).flatMap(([id, text], k) =>
      sampleTerms(id as TermId, text).map((term, n) => ({ ...term, id: `${tag}-${k}-${n}` })),
    )
  return sampleJob({
    lines: Array.from({ length: Math.ceil(count / 30) }, (_, k) => sampleLine({ id: `L${k}`, name: `Line ${k}` })),
    devices: [sampleDevice('PLC', '10.1.1.254'), ...devices],
    handshakes: devices.map(({ tag }) => sampleHandshake('PLC', tag, { id: `h-${tag}`, terms: own(tag) })),
  })
}

const timed = <T>(work: () => T): readonly [number, T] => {
  const begin = performance.now()
  const made = work()
  return [performance.now() - begin, made]
}

/** Everything that the pages of the terms show of a whole job. */
const everything = (job: Job) =>
  job.handshakes.reduce((sum, each) => {
    standingFor(job, each)
    return sum + claspFor(job, each).rows.length + ladderFor(job, each).proven
  }, 0)

/** Agreement of many handshakes: from scratch, and after one edit. */
export function terms(): readonly Line[] {
  const job = manyTerms(1000)
  const [first, rows] = timed(() => everything(job))
  const [edited] = job.handshakes[500]?.terms ?? []
  const next = applyChanges(job, [
    { op: 'set', table: 'term', id: edited?.id ?? '', version: edited?.version ?? 1, fields: { text: '10.9.9.9' } },
  ])
  const [after] = timed(() => everything(next))
  const small = manyTerms(200)
  const [matrix] = timed(() => termMatrixOf(small))
  const changed = applyChanges(small, [
    { op: 'set', table: 'term', id: small.handshakes[7]?.terms[0]?.id ?? '', version: 1, fields: { text: '10.9.9.9' } },
  ])
  const [again] = timed(() => termMatrixOf(changed))
  return [
    {
      work: `agreement, standing and ladder of 1 000 handshakes, ${rows} rows`,
      measured: `${first.toFixed(0)} ms`,
      target: '-',
    },
    { work: '  after one edit', measured: `${after.toFixed(1)} ms`, target: '-' },
    {
      work: 'handshakes by terms, 200 of 40',
      measured: `${matrix.toFixed(0)} ms, after one edit ${again.toFixed(1)} ms`,
      target: '-',
    },
  ]
}
