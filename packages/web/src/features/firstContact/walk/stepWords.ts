import { lampWords } from '@calm/core/kind'
import type { WalkStep } from '@calm/core/procedure'

/** Where the run names no causes, those of the kind: the lamps that tell of trouble come first. */
export const otherLamps = ({ step }: WalkStep) =>
  [...(step.lamps ?? [])]
    .filter((lamp) => lamp.trouble)
    .map(({ lamp, pattern, means }) => ({ saw: `${lamp} ${lampWords(pattern)}`, likely: means, check: '' }))

/** What the button says that settles a step, or several that stand together. */
export function yesWords({ step, record }: WalkStep, together = 1): string {
  switch (step.kind) {
    case 'caution':
      return together === 1 ? 'I have read it' : together === 2 ? 'I have read both' : `I have read all ${together}`
    case 'wait':
      return record?.state === 'waiting' ? 'Waiting' : 'Begin to wait'
    case 'check':
      return 'Check now'
    case 'record':
      return 'Record'
    case 'decide':
      return 'That it is'
    case 'expect':
      return 'I see it'
    default:
      return 'Done'
  }
}
