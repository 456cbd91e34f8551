import type { ReachReport } from '@calm/contract'
import type { Handshake, Job } from '@calm/core/job'
import { exceptionMeaning, identificationNames } from '@calm/core/modbus'
import { plainText } from '@calm/core/units'
import { explainOutcome } from '../exchange'
import { targetOf, targetText } from './addressBook'
import { hopPlan, planText, type HopPlan, type LiveContext } from './readHop'

function reachPlan(job: Job, handshake: Handshake): HopPlan {
  const point = handshake.points[0]
  return point ? hopPlan(job, handshake, point, 'device') : { missing: 'The handshake has no point yet.' }
}

/** What is asked when a device is reached, as a text to compare. */
export const reachPlanText = (job: Job, handshake: Handshake): string => planText(reachPlan(job, handshake))

/**
 * Reaches a device step by step: the connection, the unit, its identity. An exception is an answer: the device is
 * there. The identity is asked for but not needed; many devices do not offer it.
 */
export async function reachDevice(context: LiveContext, job: Job, handshake: Handshake): Promise<ReachReport> {
  const plan = reachPlan(job, handshake)
  const base = { mode: job.mode, at: context.clock(), identity: [], asked: '', servedAt: '' }
  if (plan.missing !== undefined)
    return { ...base, reached: false, steps: [{ step: 'Plan', ok: false, what: plan.missing }] }
  const asked = `${plan.address}:${plan.port}, unit ${plan.unit}`
  const target = targetOf(context.bench, job.mode, plan.address, plan.port)
  if (!target)
    return { ...base, asked, reached: false, steps: [{ step: 'Bench', ok: false, what: 'The bench is not running.' }] }
  const placed = { ...base, asked, servedAt: targetText(target) }

  const read = await context.pool.ask(target, plan.unit, plan.request)
  if (read.kind !== 'answered') {
    const { what, hint } = explainOutcome(read)
    const connected = read.kind !== 'no-connection'
    const steps = [
      { step: 'Connection', ok: connected, what: connected ? 'The port took the connection.' : `${what} ${hint}` },
      ...(connected ? [{ step: `Unit ${plan.unit}`, ok: false, what: `${what} ${hint}` }] : []),
    ]
    return { ...placed, reached: false, steps }
  }
  const answered =
    read.response.kind === 'exception'
      ? `It answers exception ${read.response.exception}, ${exceptionMeaning(read.response.exception).name}: it is there.`
      : `It answered in ${read.trace.milliseconds.toFixed(1)} ms.`
  const identity = await context.pool.ask(target, plan.unit, { code: 43, category: 'regular', object: 0 })
  const objects = identity.kind === 'answered' && identity.response.kind === 'identity' ? identity.response.objects : []
  return {
    ...placed,
    reached: true,
    steps: [
      { step: 'Connection', ok: true, what: 'The port took the connection.' },
      { step: `Unit ${plan.unit}`, ok: true, what: answered },
      {
        step: 'Identity',
        ok: objects.length > 0,
        what: objects.length > 0 ? 'It says what it is.' : 'It does not say what it is; many devices do not.',
      },
    ],
    identity: objects.map(({ id, text }) => ({
      name: identificationNames[id] ?? `object ${id}`,
      text: plainText(text),
    })),
  }
}
