import { always, overIp } from './applying'
import { formatIpv4, parseIpv4, type Ipv4 } from '../address'
import { takeOver } from './fixes'
import type { TermDefinition } from './term'

export const addressTerm: TermDefinition<Ipv4> = {
  id: 'address',
  name: 'Address',
  group: 'reach',
  relation: 'equal',
  why: 'Nobody answers, or the wrong device does.',
  severity: 'never',
  applies: overIp,
  asked: always,
  explain: 'The IPv4 address that the controller asks, and the one that the device has.',
  example: '10.20.40.50',
  parse: (entry) => parseIpv4(entry.text),
  format: (value) => formatIpv4(value),
  agree: (controller, device, context) =>
    controller === device
      ? { state: 'equal' }
      : {
          state: 'at-odds',
          why: `${context.tags.controller} asks ${formatIpv4(controller)}; ${context.tags.device} is at ${formatIpv4(device)}. Nobody answers, or the wrong device does.`,
          fixes: takeOver('address', 'The address', context, {
            controller: formatIpv4(controller),
            device: formatIpv4(device),
          }),
        },
  source: 'RFC 791 3.2',
}
