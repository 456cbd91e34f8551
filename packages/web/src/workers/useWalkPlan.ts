import type { BringUpAction, BringUpJob } from '@calm/core/sequence'
import { wrap, type Remote } from 'comlink'
import { useEffect, useState } from 'react'
import type { WalkApi } from './walk.worker'

let shared: Remote<WalkApi> | undefined

export type PlannedWalk = Awaited<ReturnType<WalkApi['plan']>>

/** Plans the rest of a walk; what was planned before stays until the new plan is there. */
export function useWalkPlan(
  job: BringUpJob | undefined,
  begun: readonly BringUpAction[],
  previous: readonly BringUpAction[],
  people: 1 | 2,
): { readonly plan: PlannedWalk | undefined; readonly busy: boolean } {
  const asked = JSON.stringify([job, begun, previous, people])
  const [answer, setAnswer] = useState<{ readonly asked: string; readonly plan: PlannedWalk } | undefined>(undefined)
  useEffect(() => {
    let current = true
    const [given, inHand, before, hands] = JSON.parse(asked) as [
      BringUpJob | null,
      BringUpAction[],
      BringUpAction[],
      1 | 2,
    ]
    if (!given) return undefined
    shared ??= wrap<WalkApi>(new Worker(new URL('./walk.worker.ts', import.meta.url), { type: 'module' }))
    void shared.plan(given, inHand, before, hands).then((plan) => {
      if (current) setAnswer({ asked, plan })
    })
    return () => {
      current = false
    }
  }, [asked])
  return { plan: answer?.plan, busy: answer?.asked !== asked }
}
