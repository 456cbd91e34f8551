import { BlockList, isIPv6 } from 'node:net'

const thisMachine = new BlockList()
thisMachine.addSubnet('127.0.0.0', 8)
thisMachine.addAddress('::1', 'ipv6')

/**
 * Whether a request comes from this machine itself, as that of a page on the technician's laptop does: to compress for
 * it takes longer than to send it as it is.
 * @param address as a socket gives it; an IPv4 address may be written in IPv6's way
 */
export function isFromHere(address: string | undefined): boolean {
  return address !== undefined && thisMachine.check(address, isIPv6(address) ? 'ipv6' : 'ipv4')
}
