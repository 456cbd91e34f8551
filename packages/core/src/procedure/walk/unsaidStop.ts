import { networkUnsaid } from '../networkUnsaid'
import { stopOf, type Making } from './making'
import type { Stop } from './model'

/** Devices named before the rest are counted. */
const NAMED = 4

/**
 * Devices with a planned address of which nobody said the network: what to set is not known, and they are not powered as
 * if they had none. The stop waits until it is said.
 */
export function unsaidStops(making: Making): readonly Stop[] {
  const { job, record } = making
  const devices = job.devices.filter(
    (device) => networkUnsaid(device) !== undefined && !record.settings.leftOut.includes(device.id),
  )
  if (devices.length === 0) return []
  const named = devices.slice(0, NAMED).map((device) => `${device.tag} (${networkUnsaid(device) ?? ''})`)
  const more = devices.length > NAMED ? ` and ${devices.length - NAMED} more` : ''
  const key = 'network unsaid'
  const step = {
    id: 'network',
    phase: 'before-power',
    kind: 'prepare',
    say: 'Say in the line-up which network they are in.',
  } as const
  const stop = stopOf({
    key,
    title: `${devices.length === 1 ? 'One device' : `${devices.length} devices`} without a network`,
    reason: 'They have a planned address, and nobody said which network it is in.',
    devices,
    steps: [making.step(key, null, step)],
  })
  return [
    {
      ...stop,
      held: {
        why: `Which network ${named.join(', ')}${more} ${devices.length === 1 ? 'is' : 'are'} in is not said: the mask to set is not known.`,
        help: [
          'Add the network that holds these addresses in the line-up: they come into it.',
          'Or choose their network in the line-up.',
        ],
        leadsOf: [],
      },
    },
  ]
}
