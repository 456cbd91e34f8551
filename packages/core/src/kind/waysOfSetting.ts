import { formatIpv4, octetsOf, type Ipv4 } from '../address'

/** How the address of a device is set. */
export type WayOfSetting =
  | 'web-page'
  | 'discovery-tool'
  | 'engineering-tool'
  | 'keypad'
  | 'keypad-last-octet'
  | 'rotary-switch'
  | 'dip-switch'
  | 'serial-menu'
  | 'phone-app'
  | 'push-button'
  | 'controller'
  | 'dhcp-reservation'

export interface WayOfSettingFacts {
  readonly name: string
  /**
   * `over-ip`: the laptop must be in the subnet of the present address. `local`: it must be live, the laptop does not
   * matter. `lease`: nothing to set, it has its address from the moment it is live.
   */
  readonly access: 'over-ip' | 'local' | 'lease'
  /** How much of the present address stays: 0 where any address can be set, 24 where only the last octet can. */
  readonly keepsBits: 0 | 24
  /** Lowest and highest last octet that it can show; `null` where there is no such limit. */
  readonly lastOctet: readonly [number, number] | null
  readonly say: string
}

/** @source common practice, no source */
export const waysOfSetting: Readonly<Record<WayOfSetting, WayOfSettingFacts>> = {
  'web-page': way('Its own web page', 'over-ip', 'The page is opened at its present address.'),
  'discovery-tool': way('A discovery tool', 'over-ip', 'It is found by a search on the wire.'),
  'engineering-tool': way('The programming tool', 'over-ip', 'Set from the tool that programs it.'),
  keypad: way('Keypad', 'local', 'Four parameters, one for each octet.'),
  'keypad-last-octet': {
    ...way('Keypad, last octet only', 'local', 'One parameter: the last octet. The first three stay.'),
    keepsBits: 24,
    lastOctet: [1, 254],
  },
  'rotary-switch': {
    ...way('Rotary switches', 'local', 'Switches show the last octet. Set before power.'),
    keepsBits: 24,
    lastOctet: [1, 254],
  },
  'dip-switch': {
    ...way('DIP switches', 'local', 'Six switches show the last octet, 1 to 63. Set before power.'),
    keepsBits: 24,
    lastOctet: [1, 63],
  },
  'serial-menu': way('Serial menu', 'local', 'A menu over its serial socket.'),
  'phone-app': way('Phone', 'local', 'An app beside the device.'),
  'push-button': way('Push button', 'local', 'The order of pressing is the order of addresses.'),
  controller: way('Its controller', 'over-ip', 'The controller gives it the address when it starts.'),
  'dhcp-reservation': way('DHCP reservation', 'lease', 'A server gives it the address by its hardware address.'),
}

function way(name: string, access: WayOfSettingFacts['access'], say: string): WayOfSettingFacts {
  return { name, access, say, keepsBits: 0, lastOctet: null }
}

/**
 * Why a way of setting cannot bring a device from its present address to a planned one; `undefined` when it can.
 * @param present `undefined` where it is not known: then only the limit of the last octet counts
 */
export function outOfReach(way: WayOfSetting, present: Ipv4 | undefined, planned: Ipv4): string | undefined {
  const facts = waysOfSetting[way]
  const last = octetsOf(planned)[3]
  if (facts.lastOctet && (last < facts.lastOctet[0] || last > facts.lastOctet[1]))
    return `${facts.name} can show .${facts.lastOctet[0]} to .${facts.lastOctet[1]}, not .${last}.`
  if (facts.keepsBits === 0 || present === undefined) return undefined
  const [now, then] = [octetsOf(present), octetsOf(planned)]
  return now[0] === then[0] && now[1] === then[1] && now[2] === then[2]
    ? undefined
    : `${facts.name}: the first three octets stay as they are at ${formatIpv4(present)}.`
}
