import { formatSubnet, hostsOf, inRange, ipv4FromBits, subnetOf } from '../../address'
import type { BringUpAction, BringUpJob, HostAddress } from '../../sequence'

/** What an action is and whom it concerns, as text. */
export function actionKey(action: BringUpAction): string {
  switch (action.kind) {
    case 'laptop':
      return `laptop ${formatSubnet(subnetOf(action.into.address, action.into.prefix))}`
    case 'cable':
      return `cable ${action.into}`
    case 'set':
    case 'verify':
    case 'lead-out':
    case 'lead-in':
      return `${action.kind} ${action.deviceId}`
    default:
      return `${action.kind} ${action.groupId}`
  }
}

/**
 * A host for the laptop: the highest that nobody has, wants or reserves.
 *
 * @param also addresses of devices that are not in the order
 */
export function laptopHost(
  given: Pick<BringUpJob, 'devices' | 'reserved'> | undefined,
  into: HostAddress,
  also: readonly HostAddress[] = [],
): HostAddress {
  const hosts = hostsOf(subnetOf(into.address, into.prefix))
  const taken = new Set<number>([
    ...(given?.devices ?? []).flatMap(({ target, present }) => [target.address, ...(present ? [present.address] : [])]),
    ...also.map(({ address }) => address),
  ])
  for (let bits: number = hosts.last; bits >= hosts.first; bits -= 1) {
    const address = ipv4FromBits(bits)
    const range = given?.reserved.find((each) => inRange(each, address))
    if (range) bits = range.first
    else if (!taken.has(address)) return { address, prefix: into.prefix }
  }
  return into
}
