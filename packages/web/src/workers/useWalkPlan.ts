import type { BringUpAction, BringUpJob } from '@calm/core/sequence'
import { wrap, type Remote } from 'comlink'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { WalkApi } from './walk.worker'

/** A worker that plans, and whether it is at it. */
interface Planner {
  readonly api: Remote<WalkApi>
  readonly end: () => void
  busy: boolean
}

let shared: Planner | undefined

function newPlanner(): Planner {
  const worker = new Worker(new URL('./walk.worker.ts', import.meta.url), { type: 'module' })
  return { api: wrap<WalkApi>(worker), end: () => worker.terminate(), busy: false }
}

/** Ends what is computed: nobody wants its answer any more. */
function endBusy(): void {
  if (!shared?.busy) return
  shared.end()
  shared = undefined
}

export type PlannedWalk = Awaited<ReturnType<WalkApi['plan']>>

export interface WalkPlanning {
  readonly plan: PlannedWalk | undefined
  readonly busy: boolean
  /** It was asked to stop, and nothing has changed since. */
  readonly stopped: boolean
  readonly stop: () => void
  readonly again: () => void
}

/**
 * Plans the rest of a walk; what was planned before stays until the new plan is there. A change while it is at it ends
 * the old computation, and so does whoever asks for that.
 */
export function useWalkPlan(
  job: BringUpJob | undefined,
  begun: readonly BringUpAction[],
  previous: readonly BringUpAction[],
  people: 1 | 2,
): WalkPlanning {
  const asked = JSON.stringify([job, begun, previous, people])
  const [answer, setAnswer] = useState<{ readonly asked: string; readonly plan: PlannedWalk } | undefined>(undefined)
  const [stopped, setStopped] = useState<string | undefined>(undefined)
  const done = useRef<string | undefined>(undefined)
  useEffect(() => {
    if (stopped === asked || done.current === asked) return undefined
    let current = true
    const [given, inHand, before, hands] = JSON.parse(asked) as [
      BringUpJob | null,
      BringUpAction[],
      BringUpAction[],
      1 | 2,
    ]
    if (!given) return undefined
    endBusy()
    const planner = (shared ??= newPlanner())
    planner.busy = true
    void planner.api.plan(given, inHand, before, hands).then((plan) => {
      planner.busy = false
      if (!current) return
      done.current = asked
      setAnswer({ asked, plan })
    })
    return () => {
      current = false
      endBusy()
    }
  }, [asked, stopped])
  const stop = useCallback(() => setStopped(asked), [asked])
  const again = useCallback(() => setStopped(undefined), [])
  const isStopped = stopped === asked
  return { plan: answer?.plan, busy: answer?.asked !== asked && !isStopped, stopped: isStopped, stop, again }
}
