import { formatIpv4, formatSubnet, subnetOf } from '../../address'
import type { Device } from '../../job'
import type { BringUpAction, HostAddress } from '../../sequence'
import type { Phase } from '../run'
import type { Making } from './making'
import type { WalkStep } from './model'
import { identifiedStep, last, padded } from './steps'

/** What is done to set a device's address: its run, else a plain step behind a caution. */
export function setSteps(
  making: Making,
  key: string,
  device: Device,
  action: Extract<BringUpAction, { kind: 'set' }>,
): readonly WalkStep[] {
  const phases: readonly Phase[] = action.pending ? ['set'] : ['set', 'effective']
  const to = { ...making.fields(device), planned: formatIpv4(action.to.address), padded: padded(action.to) }
  const filling = action.parking ? { ...to, lastOctet: last(action.to) } : to
  const own = identified(making, key, device, making.deviceSteps(key, device, phases, filling))
  if (own.some(({ step }) => step.acts?.includes('writes'))) return own
  const say = `Set ${device.tag} to ${formatIpv4(action.to.address)}.`
  return [
    ...own,
    making.step(key, device, {
      id: 'right-one',
      phase: 'set',
      kind: 'caution',
      say: `The next step writes to ${device.tag}. Make sure that it is this device.`,
      covers: ['writes'],
      protects: 'plant',
    }),
    making.step(key, device, {
      id: 'set',
      phase: 'set',
      kind: 'set',
      say,
      type: [formatIpv4(action.to.address)],
      acts: ['writes'],
    }),
  ]
}

/** No address is set on a twin of which nobody knows which box it is. */
function identified(making: Making, key: string, device: Device, own: readonly WalkStep[]): readonly WalkStep[] {
  const { given } = making
  const here = given.devices.find((each) => each.id === device.id)?.present
  const twins = given.devices.some((each) => each.id !== device.id && here && each.present?.address === here.address)
  if (!twins || own.some(({ step }) => step.check === 'identified')) return own
  return [making.step(key, device, { ...identifiedStep, say: `It is known which box ${device.tag} is.` }), ...own]
}

/** The laptop into a subnet: what is typed, and the look that it is there. */
export function laptopSteps(making: Making, key: string, laptop: HostAddress): readonly WalkStep[] {
  const subnet = formatSubnet(subnetOf(laptop.address, laptop.prefix))
  const address = formatIpv4(laptop.address)
  return [
    making.step(key, null, {
      id: 'set',
      phase: 'set',
      kind: 'set',
      say: `This laptop’s wired adapter: ${address}/${laptop.prefix}. Its gateway stays blank.`,
      leaves: {
        what: `Laptop at ${address}/${laptop.prefix}`,
        putBack: 'Back to the address it had, or to automatic.',
      },
    }),
    making.step(key, null, {
      id: 'seen',
      phase: 'verify',
      kind: 'check',
      check: 'laptop-in-subnet',
      say: `The laptop is in ${subnet}.`,
      otherwise: [
        {
          saw: 'It is not',
          likely: 'The address went to another adapter, or its link is down.',
          check: 'See the list of interfaces.',
        },
      ],
    }),
  ]
}
