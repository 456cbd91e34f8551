import type { Ipv4 } from './ipv4'
import type { PrefixLength } from './prefix'
import { contains, placeIn, subnetOf } from './subnet'

/** What one end knows: its own address and mask, and its gateway where it has one. */
export interface EndOnNetwork {
  readonly address: Ipv4
  readonly prefix: PrefixLength
  readonly gateway?: Ipv4 | undefined
}

/**
 * How an end sends to an address, judged by its own mask only, as a device does:
 * `self` the same address; `direct` onto the wire; `broadcast` or `network` are no hosts by its mask;
 * `gateway` handed to the gateway; `no-gateway` nowhere to send it; `bad-gateway` its gateway is not in its subnet.
 * @source RFC 1122 3.3.1.1
 */
export type Sending = 'self' | 'direct' | 'broadcast' | 'network' | 'gateway' | 'no-gateway' | 'bad-gateway'

export function sendingTo(from: EndOnNetwork, to: Ipv4): Sending {
  if (from.address === to) return 'self'
  const own = subnetOf(from.address, from.prefix)
  const place = placeIn(own, to)
  if (place === 'host') return 'direct'
  if (place !== 'outside') return place
  if (from.gateway === undefined) return 'no-gateway'
  return contains(own, from.gateway) && from.gateway !== from.address ? 'gateway' : 'bad-gateway'
}

/** Whether two ends on one wire can talk without a router, and how each sends. */
export interface Talk {
  readonly there: Sending
  readonly back: Sending
  /** Both send straight onto the wire. */
  readonly direct: boolean
  /** One sends straight, the other does not: requests arrive and answers are lost, or the other way round. */
  readonly oneWay: boolean
}

/** Each direction by its own mask: two masks that differ can let requests through and lose the answers. */
export function whoCanTalk(a: EndOnNetwork, b: EndOnNetwork): Talk {
  const there = sendingTo(a, b.address)
  const back = sendingTo(b, a.address)
  return {
    there,
    back,
    direct: there === 'direct' && back === 'direct',
    oneWay: (there === 'direct') !== (back === 'direct'),
  }
}
