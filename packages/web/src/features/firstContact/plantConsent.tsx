import type { Job } from '@calm/core/job'
import { useMemo, useRef, useState } from 'react'
import { ProblemError, type WalkActs } from '../../api'
import { Dialog, Button } from '../../ui'

/** Where a person did not let this laptop ask: said in the place where an answer would stand. */
const notAsked = () => new ProblemError(0, [{ where: '', what: 'Nothing was asked.', found: '', expected: '' }])

const keyOf = (jobId: string) => `plant-asks ${jobId}`

/**
 * On the plant nothing is asked before a person says so, once for each job and browser session. What does not talk to
 * a device goes through as it is.
 */
export function usePlantConsent(
  job: Job,
  acts: WalkActs,
): { readonly acts: WalkActs; readonly dialog: React.ReactNode } {
  const [asking, setAsking] = useState(false)
  const answer = useRef<((allowed: boolean) => void) | undefined>(undefined)
  // Two acts at once wait for the same answer.
  const question = useRef<Promise<boolean> | undefined>(undefined)
  const guarded = useMemo(() => {
    if (job.mode === 'bench') return acts
    const allow = async () => {
      if (sessionStorage.getItem(keyOf(job.id)) === 'yes') return
      setAsking(true)
      question.current ??= new Promise<boolean>((done) => (answer.current = done))
      const allowed = await question.current
      question.current = undefined
      setAsking(false)
      if (!allowed) throw notAsked()
      sessionStorage.setItem(keyOf(job.id), 'yes')
    }
    const after =
      <A extends readonly unknown[], T>(act: (...given: A) => Promise<T>) =>
      async (...given: A): Promise<T> => {
        await allow()
        return act(...given)
      }
    return {
      ...acts,
      check: async (stepKey: string, talks = true) => {
        if (talks) await allow()
        return acts.check(stepKey)
      },
      wait: after(acts.wait),
      takePicture: after(acts.takePicture),
      whyNothing: after(acts.whyNothing),
      probe: after(acts.probe),
      units: after(acts.units),
      sweep: after(acts.sweep),
      listen: after(acts.listen),
    }
  }, [job.id, job.mode, acts])
  const say = (allowed: boolean) => answer.current?.(allowed)
  const dialog = asking ? (
    <Dialog
      title="Ask devices of this plant?"
      say="This laptop then looks at addresses of this job: it opens connections and reads what devices say of themselves. Nothing is written."
      open
      onClose={() => say(false)}
    >
      <div className="mt-3 flex items-center gap-3">
        <Button look="act" size="tall" onClick={() => say(true)}>
          Ask them
        </Button>
        <Button look="plain" onClick={() => say(false)}>
          Leave it
        </Button>
      </div>
    </Dialog>
  ) : null
  return { acts: guarded, dialog }
}
