import { checkPlan, type Plan } from '../address'
import { checkBus } from '../bus'
import { applyRule, bySeverity, type Finding } from '../findings'
import { busesOf, type Acceptance, type Job } from '../job'
import { kindFacts } from '../kind'
import { aboutDevice, deviceRules, indexJob } from './rules'

/** Everything found about a line-up: addresses, nodes, devices. Unsafe first, then in the order of the plan. */
export function checkLineUp(job: Job, plan: Plan): readonly Finding[] {
  const index = indexJob(job)
  const aboutDevices = job.devices.flatMap((device) => {
    const subject = { device, job, kind: kindFacts(device.kind, job.kinds), index }
    return deviceRules.flatMap((rule) => applyRule(rule, subject, aboutDevice(device)) ?? [])
  })
  return bySeverity([...checkPlan(plan), ...busesOf(job).flatMap(checkBus), ...aboutDevices])
}

/** A finding that a person lets stand, with who said so and why. */
export interface AcceptedFinding {
  readonly finding: Finding
  readonly acceptance: Acceptance
}

/**
 * Sorts out what was accepted. An acceptance counts for the rule, the row and what was found; when that changes, the
 * finding stands again.
 */
export function standingFindings(
  findings: readonly Finding[],
  acceptances: readonly Acceptance[],
): { readonly open: readonly Finding[]; readonly accepted: readonly AcceptedFinding[] } {
  const byKey = new Map(acceptances.map((each) => [keyOf(each.rule, each.subjectId, each.found), each]))
  const open: Finding[] = []
  const accepted: AcceptedFinding[] = []
  for (const finding of findings) {
    const acceptance = byKey.get(keyOf(finding.rule, finding.subject.id, finding.found))
    if (acceptance) accepted.push({ finding, acceptance })
    else open.push(finding)
  }
  return { open, accepted }
}

const keyOf = (rule: string, subjectId: string, found: string) => `${rule}\n${subjectId}\n${found}`
