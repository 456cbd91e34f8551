import { laptopIsIn, laptopSees, looksAt } from '@calm/core/procedure'
import type { CheckAnswer } from '@calm/contract/api'
import { useEffect, useRef, useState } from 'react'
import { laptopSubnet, type StepInHand } from './stepAround'

/** Looks made by the program at one step, and the time between them: a device answers a while before its ports are open. */
export const LOOKS = 5
export const BETWEEN_LOOKS_MS = 2_000

interface Here extends StepInHand {
  /** Makes the check of the step and shows what it came to; why nothing answers is worked out where it is wanted. */
  readonly check: (tellsWhy: boolean) => Promise<CheckAnswer | undefined>
}

interface Looks {
  /** How many looks were made at this step. */
  readonly looks: number
  /** Whether another follows by itself. */
  readonly looksAgain: boolean
}

/**
 * What the program sees without being asked: the laptop that has come into its subnet, and who answers at the address
 * of the step that is due. A look that finds nobody is made again, as whoever stands at the panel would.
 */
export function useSeenByItself({ job, record, stop, step, isDue, laptop, acts, check }: Here): Looks {
  const { kind } = step.step
  const into = laptopSubnet(job, record, step.laptop ?? stop.laptop, step)
  const isThere = into !== undefined && laptop !== undefined && laptopIsIn(laptop, into) && !step.record
  useLooks(step.key, isThere, async () => {
    if (kind === 'check') return (await acts.check(step.key, false)).verdict === 'passed'
    await acts.settle({ stepKey: step.key, state: 'done', note: 'Seen by itself.', seen: 0 })
    return true
  })
  const address = isDue && !step.record && laptop ? looksAt(job, record, stop, step) : undefined
  const mayLook = address !== undefined && laptop !== undefined && laptopSees(laptop, address)
  return useLooks(step.key, mayLook, async (look) => (await check(look === 1 || look === LOOKS))?.verdict === 'passed')
}

/** Looks while it may, until a look says that all is well, a few times at most for each step. */
function useLooks(key: string, may: boolean, look: (count: number) => Promise<boolean>): Looks {
  const [made, setMade] = useState({ key: '', looks: 0, over: false })
  const { looks, over } = made.key === key ? made : { looks: 0, over: false }
  const looksAgain = may && !over && looks < LOOKS
  const latest = useRef(look)
  useEffect(() => {
    latest.current = look
  })
  useEffect(() => {
    if (!looksAgain) return
    let left = false
    const now = async () => {
      const isOver = await latest.current(looks + 1).catch(() => false)
      if (!left) setMade({ key, looks: looks + 1, over: isOver })
    }
    const timer = setTimeout(() => void now(), looks === 0 ? 0 : BETWEEN_LOOKS_MS)
    return () => {
      left = true
      clearTimeout(timer)
    }
  }, [looksAgain, looks, key])
  return { looks, looksAgain }
}
