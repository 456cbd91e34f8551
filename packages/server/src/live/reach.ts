import type { ReachReport } from '@calm/contract'
import { devicePlanOf, type Handshake, type Job } from '@calm/core/job'
import { exceptionMeaning, identificationNames } from '@calm/core/modbus'
import { plainText } from '@calm/core/units'
import { explainOutcome } from '../exchange'
import { askingOf, wayText } from './channelOf'
import { hopPlan, planText, unlessBarred, type HopPlan, type LiveContext } from './readHop'

/** What to do about a line on which it is not sure who answered. */
export const WHEN_QUIET = 'Look for two devices at one address, for noise and for a slow device; then ask again.'

function reachPlan(job: Job, handshake: Handshake): HopPlan {
  const plan = devicePlanOf(job, handshake)
  if (plan.ok) return unlessBarred(plan.value, handshake)
  // A handshake whose points all have places of their own needs no first register in its terms.
  const point = handshake.points.find((each) => each.source !== null)
  if (point) return hopPlan(job, handshake, point, 'device')
  return { missing: plan.refusal.gaps.map((gap) => gap.what).join(' ') }
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
  const asked = `${wayText(plan.way)}, unit ${plan.way.unit}`
  const asking = askingOf(context.bench, job.mode, plan.way)
  if ('missing' in asking)
    return { ...base, asked, reached: false, steps: [{ step: 'Way', ok: false, what: asking.missing }] }
  const placed = { ...base, asked, servedAt: asking.servedAt }

  const read = await asking.ask(context.pool, plan.request)
  if (read.kind !== 'answered') {
    const { what, hint } = explainOutcome(read)
    const connected = read.kind !== 'no-connection'
    const steps = [
      { step: 'Connection', ok: connected, what: connected ? 'The port took the connection.' : `${what} ${hint}` },
      ...(connected ? [{ step: `Unit ${plan.way.unit}`, ok: false, what: `${what} ${hint}` }] : []),
    ]
    return { ...placed, reached: false, steps }
  }
  if (read.trace.unsure !== undefined)
    return {
      ...placed,
      reached: false,
      steps: [
        { step: 'Connection', ok: true, what: 'The port took the connection.' },
        { step: 'Line', ok: false, what: `${read.trace.unsure} ${WHEN_QUIET}` },
      ],
    }
  const answered =
    read.response.kind === 'exception'
      ? `It answers exception ${read.response.exception}, ${exceptionMeaning(read.response.exception).name}: it is there.`
      : `It answered in ${read.trace.milliseconds.toFixed(1)} ms.`
  const identity = await asking.ask(context.pool, { code: 43, category: 'regular', object: 0 })
  const objects = identity.kind === 'answered' && identity.response.kind === 'identity' ? identity.response.objects : []
  return {
    ...placed,
    reached: true,
    steps: [
      { step: 'Connection', ok: true, what: 'The port took the connection.' },
      { step: `Unit ${plan.way.unit}`, ok: true, what: answered },
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
