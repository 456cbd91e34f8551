import type { LabelField } from '@calm/core/label'
import type { Device } from '@calm/core/job'
import { isSettled, type Stop } from '@calm/core/procedure'
import type { WalkActs } from '../../../api'

/** Kept as facts though no step asks: a hardware address tells twins apart, a unit's code is needed later. */
const ALWAYS_KEPT = ['mac', 'unit-code'] as const

/**
 * Takes what was read off a label: every open step of the stop that asks for one of the values is settled with it.
 *
 * @param onText what stands in a step's field from now on
 */
export async function takeLabel(
  acts: WalkActs,
  stop: Stop,
  device: Device,
  values: ReadonlyMap<LabelField, string>,
  onText: (stepKey: string, text: string) => void,
): Promise<void> {
  const asking = stop.steps.filter((step) => step.deviceId === device.id && !isSettled(step) && step.step.record)
  for (const step of asking) {
    const text = values.get(step.step.record as LabelField)
    if (text === undefined) continue
    onText(step.key, text)
    await acts.settle({ stepKey: step.key, state: 'done', note: text, seen: step.record?.version ?? 0 })
  }
  for (const field of ALWAYS_KEPT) {
    const text = values.get(field)
    if (text !== undefined && !asking.some((step) => step.step.record === field))
      await acts.addFact({ deviceId: device.id, setting: field, standing: 'found', text, how: 'seen' })
  }
}
