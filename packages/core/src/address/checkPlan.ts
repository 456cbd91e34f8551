import { applyRule, bySeverity, type Finding } from '../findings'
import type { Plan } from './plan'
import { indexPlan } from './planIndex'
import { aboutNetwork, aboutPort, macTwice, networkRules, portRules } from './rules'

/** Everything that the address rules find in a plan, unsafe first; within a severity in the order of the plan. */
export function checkPlan(plan: Plan): readonly Finding[] {
  const index = indexPlan(plan)
  const findings: Finding[] = []
  const keep = (finding: Finding | undefined) => {
    if (finding) findings.push(finding)
  }
  for (const network of plan.networks) {
    for (const rule of networkRules) keep(applyRule(rule, { network, index }, aboutNetwork(network)))
  }
  for (const port of plan.ports) {
    keep(applyRule(macTwice, { port, index }, aboutPort(port)))
    if (port.address === undefined) continue
    const subject = { port, address: port.address, network: index.network(port.networkId), index }
    for (const rule of portRules) keep(applyRule(rule, subject, aboutPort(port)))
  }
  return bySeverity(findings)
}
