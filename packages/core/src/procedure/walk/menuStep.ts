import type { Device, Job } from '../../job'
import { kindFacts } from '../../kind'
import { taskOf, type MenuAnswer, type MenuTask } from '../../menu'
import { filled, type StepFields } from '../fields'
import type { RunStep } from '../run'

/** What a step does in the serial menu of its device, by the description of its kind. */
export interface StepInMenu {
  readonly task: MenuTask
  /** Prompts with what is typed at each, the job's values in them. */
  readonly answers: readonly MenuAnswer[]
}

/** What a step does in the menu; nothing where its kind has no description of it. */
export function inMenu(job: Job, device: Device, step: RunStep, fields: StepFields): { readonly menu?: StepInMenu } {
  const task = taskOf(kindFacts(device.kind, job.kinds).menu, step.menu)
  if (!task) return {}
  return { menu: { task, answers: task.answers.map((each) => ({ ...each, answer: filled(each.answer, fields) })) } }
}
