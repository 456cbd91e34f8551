import { formatIpv4 } from '../../address'
import type { HostAddress } from '../../sequence'
import { filled, type StepFields } from '../fields'
import { leadOut } from '../lead'
import type { RunStep } from '../run'

/** A step with the job's values in its sentences. */
export function filledStep(step: RunStep, fields: StepFields): RunStep {
  const fill = (text: string) => filled(text, fields)
  return {
    ...step,
    say: fill(step.say),
    ...(step.why === undefined ? {} : { why: fill(step.why) }),
    ...(step.type ? { type: step.type.map(fill) } : {}),
    ...(step.normal ? { normal: step.normal.map(fill) } : {}),
    ...(step.otherwise
      ? {
          otherwise: step.otherwise.map(({ saw, likely, check }) => ({
            saw: fill(saw),
            likely: fill(likely),
            check: fill(check),
          })),
        }
      : {}),
    ...(step.choices ? { choices: step.choices.map(({ say, then }) => ({ say: fill(say), then: fill(then) })) } : {}),
    ...(step.putsBack === undefined ? {} : { putsBack: fill(step.putsBack) }),
    ...(step.leaves ? { leaves: { what: fill(step.leaves.what), putBack: fill(step.leaves.putBack) } } : {}),
  }
}

export const last = (of: HostAddress) => String(of.address & 255)
export const padded = (of: HostAddress) =>
  formatIpv4(of.address)
    .split('.')
    .map((octet) => octet.padStart(3, '0'))
    .join('.')

export const identifiedStep: RunStep = {
  id: 'identified',
  phase: 'set',
  kind: 'check',
  check: 'identified',
  protects: 'plant',
  say: '',
}

export const findAgainStep: RunStep = {
  id: 'find-again',
  phase: 'verify',
  kind: 'check',
  check: 'reached-planned',
  say: 'It answers at its planned address.',
}

export const powerCaution = (group: string, names: string): RunStep => ({
  id: 'power-caution',
  phase: 'before-power',
  kind: 'caution',
  say: `When ${group} goes on, ${names} and what hangs on it get power. Clear the area, covers on, nobody at a terminal.`,
  covers: ['powers'],
  protects: 'people',
})

export const onStep = (group: string, names: string): RunStep => ({
  id: 'on',
  phase: 'power',
  kind: 'do',
  say: `Put ${group} on: ${names}. Control supply first; what it moves stays isolated.`,
  acts: ['powers'],
})

export const offStep = (group: string, names: string): RunStep => ({
  id: 'off',
  phase: 'effective',
  kind: 'do',
  say: `Take ${group} off: ${names}.`,
})

export const startStep = (watch: 'back-at-present' | 'back-at-planned'): RunStep => ({
  id: 'starts',
  phase: 'power',
  kind: 'wait',
  say: 'It starts.',
  seconds: 'start-up',
  watch,
})

/** Pulled is kept in the ledger until it is plugged. */
export const leadStep = (tag: string, out: boolean): RunStep => ({
  id: 'lead',
  phase: 'set',
  kind: 'do',
  say: out
    ? `Pull the network lead of ${tag} out of the switch, or out of the device.`
    : `Plug in the network lead of ${tag}.`,
  ...(out
    ? { leaves: { what: leadOut(tag), putBack: 'Plug it in when the walk says so.' } }
    : { putsBack: leadOut(tag) }),
})

export const cableStep = (title: string, back: boolean): RunStep => ({
  id: 'cable',
  phase: 'set',
  kind: 'do',
  say: `${title}.`,
  ...(back ? {} : { leaves: { what: title, putBack: 'Back into the switch.' } }),
})
