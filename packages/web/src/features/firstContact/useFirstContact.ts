import type { Job } from '@calm/core/job'
import {
  bringUpJobOf,
  isSettled,
  openRuns,
  walkOf,
  type LaptopState,
  type Stop,
  type WalkRecord,
  type WalkStep,
} from '@calm/core/procedure'
import { parseIpv4, prefixLength } from '@calm/core/address'
import type { BringUpJob, HostAddress } from '@calm/core/sequence'
import { useMemo } from 'react'
import { useWalkPlan, type PlannedWalk, type WalkPlanning } from '../../workers'

export interface FirstContact {
  readonly given: BringUpJob
  /** The walk as it is saved; before it is begun, as it is planned. */
  readonly stops: readonly Stop[]
  readonly begun: boolean
  readonly plan: PlannedWalk | undefined
  readonly planning: Omit<WalkPlanning, 'plan'>
  /** The plan says something else than what is saved. */
  readonly differs: boolean
  /** The order to save: what is done or in hand, then what is planned. */
  readonly next: WalkRecord['order']
}

const subnetsOf = (laptop: LaptopState | undefined): readonly HostAddress[] =>
  laptop?.interfaces.flatMap((adapter) => {
    const read = parseIpv4(adapter.address)
    return read.ok && !adapter.loopback && adapter.link !== false
      ? [{ address: read.value, prefix: prefixLength(adapter.prefix) }]
      : []
  }) ?? []

/** The walk of a job and its plan, computed from what is saved. */
export function useFirstContact(job: Job, record: WalkRecord, laptop: LaptopState | undefined): FirstContact {
  const subnets = JSON.stringify(subnetsOf(laptop))
  const given = useMemo(() => bringUpJobOf(job, record, JSON.parse(subnets) as HostAddress[]), [job, record, subnets])
  const saved = useMemo(() => walkOf(job, record, record.order, given), [job, record, given])
  const parts = useMemo(() => {
    const actions = (states: readonly Stop['state'][]) =>
      saved.flatMap((stop) => (stop.action && states.includes(stop.state) ? [stop.action] : []))
    return { settled: actions(['settled']), begun: actions(['begun']), ahead: actions(['ahead']) }
  }, [saved])
  const { plan, ...planning } = useWalkPlan(given, parts.begun, parts.ahead, record.settings.people)
  // A run that was begun beside the order is walked, whether the order is begun or not.
  const inHand = useMemo(() => openRuns(job, record).length > 0, [job, record])
  const begun = record.order.length > 0 || inHand
  const next = useMemo(
    () => (plan && 'answer' in plan ? [...parts.settled, ...parts.begun, ...plan.answer.actions] : record.order),
    [plan, parts, record.order],
  )
  const stops = useMemo(
    () => (begun ? saved : walkOf(job, record, next, given)),
    [begun, saved, job, record, next, given],
  )
  const isNow = !planning.busy && !planning.stopped
  // While a run is in hand the plant is on its way somewhere: what is planned then is not what is planned after it.
  const differs =
    record.order.length > 0 && !inHand && isNow && JSON.stringify(sorted(next)) !== JSON.stringify(sorted(record.order))
  return { given, stops, begun, plan, planning, differs, next }
}

/** What is planned without where it stands: only what is to be done counts as another plan. */
const sorted = (order: WalkRecord['order']) => order.map((action) => JSON.stringify(action)).sort()

/** The first step of a stop that is not settled. */
export const currentStep = (stop: Stop | undefined): WalkStep | undefined =>
  stop?.steps.find((step) => !isSettled(step))

/** The stop that is due: the first that is not settled and waits for nobody outside the order; else the first that waits. */
export const currentStop = (stops: readonly Stop[]): Stop | undefined =>
  stops.find((stop) => stop.state !== 'settled' && !stop.held) ?? stops.find((stop) => stop.state !== 'settled')
