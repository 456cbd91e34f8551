import { explainPoints } from '@calm/core/explain'
import { findFaults } from '@calm/core/path'
import { packReads, type Wanted } from '@calm/core/packing'
import { checkPoints } from '@calm/core/points'
import type { Handshake, Job } from '@calm/core/job'
import { middle, type Line } from './measured'
import { dice, hitRates, onePoint } from '../packages/core/src/explain/fixtures'
import { playPath, singles } from '../packages/core/src/path/fixtures/injected'
import { sampleDevice, sampleHandshake, sampleJob, samplePoint, sampleTerms } from '../packages/core/src/job/fixtures'

const ms = (value: number) => `${value.toFixed(value < 10 ? 2 : 0)} ms`

/** Two thousand devices with ten points each. */
function manyPoints(): Job {
  const devices = Array.from({ length: 2000 }, (_, k) =>
    sampleDevice(`M${k}`, `10.${1 + Math.floor(k / 250)}.1.${1 + (k % 250)}`),
  )
  const handshakes = devices.map((device, k): Handshake => ({
    ...sampleHandshake('PLC', device.id),
    id: `h${k}`,
    terms: sampleTerms('function-code', '03'),
    points: Array.from({ length: 10 }, (_, p) =>
      samplePoint({
        id: `p${k}-${p}`,
        tag: `T${k}_${p}`,
        source: {
          register: `4${String(1 + 2 * p - (p === 7 ? 1 : 0)).padStart(4, '0')}`,
          type: 'float32',
          order: 'ABCD',
          scale: 1,
        },
      }),
    ),
  }))
  return sampleJob({ devices: [sampleDevice('PLC', '10.0.0.1'), ...devices], handshakes })
}

/** Figures of the data path: explanations, packing, findings of points, and how often the truth is found. */
export function dataPath(): readonly Line[] {
  const roll = dice(1)
  const small = Array.from({ length: 60 }, () => onePoint(roll, 'shift and order', 1)).flatMap(
    (each) => each?.questions ?? [],
  )
  const large = Array.from({ length: 30 }, () => onePoint(roll, 'type and order', 6)).flatMap(
    (each) => each?.questions ?? [],
  )
  const eight = small.map((question) => ({
    ...question,
    first: question.first + 2,
    samples: question.samples.map((each) => ({ ...each, words: each.words.slice(2, 10) })),
  }))
  const wide = large.map((question) => ({
    ...question,
    samples: question.samples.map((each) => ({ ...each, words: [...each.words, ...each.words] })),
  }))
  const wanted: readonly Wanted[] = Array.from({ length: 5000 }, (_, k) => ({
    id: `${k}`,
    table: 'holding-registers',
    address: 12 * k + (k % 5),
    size: 2,
    pollMs: 1000,
  }))
  const rules = { mostRegisters: 125, mostBits: 2000, forbidden: [], cost: { perRequest: 20, perRegister: 2 } }
  const job = manyPoints()
  const all = (made: Job) => made.handshakes.reduce((sum, each) => sum + checkPoints(made, each).findings.length, 0)
  const fromScratch = middle(3, () => all({ ...job, handshakes: job.handshakes.map((each) => ({ ...each })) }))
  all(job)
  const [first, ...rest] = job.handshakes
  const edited = { ...job, handshakes: [{ ...(first as Handshake) }, ...rest] }
  const start = performance.now()
  all(edited)
  const afterEdit = performance.now() - start
  const pairs = singles.flatMap((one, k) => singles.slice(k + 1).map((other) => [one, other] as const))
  const named = pairs
    .filter(([one, other]) => one.hop !== other.hop && !['stale', 'zero', 'cleared', 'forced'].includes(one.kind))
    .map(([one, other]) => {
      const finding = findFaults(playPath(7, [one, other]))
      return [one, other].every(({ hop, kind }) =>
        finding.hops
          .find(({ name }) => name === hop)
          ?.equals.some(({ faults }) => faults.length === 1 && faults[0]?.kind === kind),
      )
    })
  return [
    {
      work: 'explanations, window of 8 registers',
      measured: ms(middle(5, () => eight.map((each) => explainPoints([each]))) / eight.length),
      target: 'under 5 ms',
    },
    {
      work: 'explanations, 24 registers, 6 samples',
      measured: ms(middle(5, () => wide.map((each) => explainPoints([each]))) / wide.length),
      target: 'under 50 ms',
    },
    { work: 'packing of 5 000 points', measured: ms(middle(5, () => packReads(wanted, rules))), target: 'under 50 ms' },
    { work: 'findings of 20 000 points, from scratch', measured: ms(fromScratch), target: 'under 300 ms' },
    { work: 'findings of 20 000 points, after one edit', measured: ms(afterEdit), target: 'under 30 ms' },
    {
      work: 'two faults at two hops, both named',
      measured: `${named.filter(Boolean).length} of ${named.length}`,
      target: '',
    },
    ...hitRates(100, 2026).map(({ name, cases, first: front, firstThree }) => ({
      work: `found: ${name}`,
      measured: `${front} / ${firstThree} of ${cases}`,
      target: 'first / first three',
    })),
  ]
}
