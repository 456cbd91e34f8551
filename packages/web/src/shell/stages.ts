import type { Finding } from '@calm/core/findings'
import { laddersOf } from '@calm/core/handOver'
import { claspFor, type Job, ladderFor } from '@calm/core/job'
import { checkPoints, type PointFindings } from '@calm/core/points'
import type { WalkRecord } from '@calm/core/procedure'
import { troubledDevices } from '../job'

/** One stage on the walk: how much of it is done, and what stands out. */
export interface StageOnWalk {
  readonly path: string
  readonly name: string
  /** The digit that opens it. Stages keep their number in the order of work, so those not here yet leave a gap. */
  readonly key: string
  readonly done: number
  readonly total: number
  readonly atOdds: number
  readonly waiting: number
}

/** How many devices with a planned address were found again at it, and what waits. */
function firstContactOf(
  job: Job,
  walk: WalkRecord | undefined,
): Pick<StageOnWalk, 'done' | 'total' | 'waiting' | 'atOdds'> {
  const planned = new Map(
    job.devices.flatMap((device) => {
      const address = device.ports.find((port) => port.address !== null && port.networkId !== null)?.address
      return address ? [[device.id, address] as const] : []
    }),
  )
  const verified = new Set(
    walk?.facts.flatMap((fact) =>
      fact.setting === 'address' && fact.standing === 'verified' && planned.get(fact.deviceId) === fact.text
        ? [fact.deviceId]
        : [],
    ),
  )
  const steps = (state: string) => walk?.steps.filter((step) => step.state === state).length ?? 0
  return { done: verified.size, total: planned.size, waiting: steps('waiting'), atOdds: steps('unexpected') }
}

/** How many handshakes have points that all have a place, with nothing wrong at any of them. */
function dataPathOf(job: Job): Pick<StageOnWalk, 'done' | 'total' | 'waiting' | 'atOdds'> {
  const checked = job.handshakes.map((handshake) => checkPoints(job, handshake))
  const isWrong = ({ findings }: PointFindings) => findings.some(({ severity }) => severity === 'will-not-work')
  return {
    done: checked.filter((each) => each.looked > 0 && each.unplaced === 0 && !isWrong(each)).length,
    total: checked.length,
    waiting: 0,
    atOdds: checked.filter(isWrong).length,
  }
}

/** The stages of a job in working order. */
export function stagesOf(job: Job, findings: readonly Finding[], walk?: WalkRecord): readonly StageOnWalk[] {
  const withTrouble = troubledDevices(job, findings).size
  const ladders = laddersOf(job, ladderFor)
  const clasps = job.handshakes.map((handshake) => claspFor(job, handshake))
  const rungCount = (rung: string, states: readonly string[]) =>
    ladders.filter(({ ladder }) => ladder.rungs.some((each) => each.rung === rung && states.includes(each.state)))
      .length
  const handshakes = job.handshakes.length
  return [
    {
      path: 'line-up',
      name: 'Line-up',
      key: '1',
      done: job.devices.length - withTrouble,
      total: job.devices.length,
      atOdds: withTrouble,
      waiting: 0,
    },
    { path: 'first-contact', name: 'First contact', key: '2', ...firstContactOf(job, walk) },
    {
      path: 'terms',
      name: 'Terms',
      key: '3',
      done: clasps.filter((clasp) => clasp.agreeing === clasp.total).length,
      total: handshakes,
      atOdds: clasps.filter((clasp) => clasp.atOdds > 0).length,
      waiting: 0,
    },
    { path: 'data-path', name: 'Data path', key: '4', ...dataPathOf(job) },
    {
      path: 'proof',
      name: 'Proof',
      key: '5',
      done: rungCount('reading', ['proven']),
      total: handshakes,
      atOdds: rungCount('reading', ['at-odds']),
      waiting: rungCount('reached', ['waiting']),
    },
    {
      path: 'hand-over',
      name: 'Hand-over',
      key: '6',
      done: rungCount('handed-over', ['proven']),
      total: handshakes,
      atOdds: 0,
      waiting: 0,
    },
  ]
}
