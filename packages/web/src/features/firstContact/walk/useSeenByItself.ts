import {
  laptopIsIn,
  laptopSees,
  looksAt,
  type LaptopState,
  type Stop,
  type WalkRecord,
  type WalkStep,
} from '@calm/core/procedure'
import type { Job } from '@calm/core/job'
import type { CheckAnswer } from '@calm/contract/api'
import { useEffect, useRef, useState } from 'react'
import type { WalkActs } from '../../../api'
import { laptopSubnet } from './stepAround'

/** Looks made by the program at one step, and the time between them: a device answers a while before its ports are open. */
export const LOOKS = 5
export const BETWEEN_LOOKS_MS = 2_000

interface Here {
  readonly job: Job
  readonly record: WalkRecord
  readonly stop: Stop
  readonly step: WalkStep
  readonly isDue: boolean
  readonly laptop: LaptopState | undefined
  readonly acts: WalkActs
  /** Makes the check of the step and shows what it came to; why nothing answers is worked out where it is wanted. */
  readonly check: (tellsWhy: boolean) => Promise<CheckAnswer | undefined>
}

/**
 * What the program sees without being asked: the laptop that has come into its subnet, and who answers at the address
 * of the step that is due. A look that finds nobody is made again, as whoever stands at the panel would.
 *
 * @returns how many looks were made at this step, and whether another follows by itself
 */
export function useSeenByItself(here: Here): { readonly looks: number; readonly looksAgain: boolean } {
  const { job, record, stop, step, isDue, laptop, acts, check } = here
  const { kind } = step.step
  const into = laptopSubnet(job, record, step.laptop ?? stop.laptop, step)
  const isThere = into !== undefined && laptop !== undefined && laptopIsIn(laptop, into)
  const ticked = useRef('')
  useEffect(() => {
    if (!isThere || ticked.current === step.key || step.record) return
    ticked.current = step.key
    if (kind === 'check') void acts.check(step.key, false).catch(() => undefined)
    else void acts.settle({ stepKey: step.key, state: 'done', note: 'Seen by itself.', seen: 0 }).catch(() => undefined)
  }, [isThere, step, kind, acts])

  const address = isDue && !step.record && laptop ? looksAt(job, record, stop, step) : undefined
  const mayLook = address !== undefined && laptop !== undefined && laptopSees(laptop, address)
  const [made, setMade] = useState({ key: '', looks: 0, passed: false })
  const looks = made.key === step.key ? made.looks : 0
  const looksAgain = mayLook && looks < LOOKS && !(made.key === step.key && made.passed)
  const make = useRef(check)
  useEffect(() => {
    make.current = check
  })
  useEffect(() => {
    if (!looksAgain) return
    let left = false
    const look = async () => {
      const answer = await make.current(looks === 0 || looks + 1 >= LOOKS)
      if (!left) setMade({ key: step.key, looks: looks + 1, passed: answer?.verdict === 'passed' })
    }
    const timer = setTimeout(() => void look(), looks === 0 ? 0 : BETWEEN_LOOKS_MS)
    return () => {
      left = true
      clearTimeout(timer)
    }
  }, [looksAgain, looks, step.key])
  return { looks, looksAgain }
}
