import { Address4 } from 'ip-address'
import fc from 'fast-check'
import ipaddr from 'ipaddr.js'
import { formatIpv4, ipv4, ipv4FromBits } from './ipv4'
import { formatMask, parseMask, prefixLength } from './prefix'
import {
  contains,
  formatSubnet,
  hostCount,
  hostsOf,
  lastAddress,
  parseSubnet,
  placeIn,
  subnetOf,
  subnetsOverlap,
} from './subnet'

const subnet = (text: string) => {
  const read = parseSubnet(text)
  if (!read.ok) throw new Error(read.refusal.what)
  return read.value
}

describe('subnets', () => {
  // 192.168.1.0/24: 254 hosts, broadcast .255. RFC 3021 for /31; a /32 is one host.
  test.each([
    ['192.168.1.0/24', 254, '192.168.1.1', '192.168.1.254', '192.168.1.255'],
    ['10.0.0.0/8', 16_777_214, '10.0.0.1', '10.255.255.254', '10.255.255.255'],
    ['10.20.40.64/26', 62, '10.20.40.65', '10.20.40.126', '10.20.40.127'],
    ['10.20.40.4/31', 2, '10.20.40.4', '10.20.40.5', '10.20.40.5'],
    ['10.20.40.4/32', 1, '10.20.40.4', '10.20.40.4', '10.20.40.4'],
    ['0.0.0.0/0', 4_294_967_294, '0.0.0.1', '255.255.255.254', '255.255.255.255'],
  ])('%s has %d hosts from %s to %s', (text, count, first, last, end) => {
    const read = subnet(text)
    expect(hostCount(read)).toBe(count)
    expect(formatIpv4(hostsOf(read).first)).toBe(first)
    expect(formatIpv4(hostsOf(read).last)).toBe(last)
    expect(formatIpv4(lastAddress(read))).toBe(end)
  })

  test('masks, bases and ends agree with independent libraries (ip-address, ipaddr.js)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 0xffffffff }), fc.integer({ min: 0, max: 32 }), (bits, length) => {
        const address = ipv4FromBits(bits)
        const other = new Address4(`${formatIpv4(address)}/${length}`)
        const own = subnetOf(address, prefixLength(length))
        expect(formatIpv4(own.base)).toBe(other.startAddress().address)
        expect(formatIpv4(lastAddress(own))).toBe(other.endAddress().address)
        expect(formatMask(prefixLength(length))).toBe(ipaddr.IPv4.subnetMaskFromPrefixLength(length).toString())
        expect(contains(own, address)).toBe(true)
      }),
    )
  })

  test('two blocks overlap exactly when one of them holds the first address of the other (ip-address, isInSubnet)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 0xffff }),
        fc.integer({ min: 0, max: 0xffff }),
        fc.integer({ min: 16, max: 32 }),
        fc.integer({ min: 16, max: 32 }),
        (a, b, la, lb) => {
          const one = subnetOf(ipv4FromBits(0x0a140000 + a), prefixLength(la))
          const two = subnetOf(ipv4FromBits(0x0a140000 + b), prefixLength(lb))
          const [x, y] = [new Address4(formatSubnet(one)), new Address4(formatSubnet(two))]
          expect(subnetsOverlap(one, two)).toBe(x.isInSubnet(y) || y.isInSubnet(x))
        },
      ),
    )
  })

  test('the place of an address: network, broadcast, host or outside', () => {
    const net = subnet('10.20.40.0/24')
    expect(placeIn(net, ipv4('10.20.40.0'))).toBe('network')
    expect(placeIn(net, ipv4('10.20.40.255'))).toBe('broadcast')
    expect(placeIn(net, ipv4('10.20.40.22'))).toBe('host')
    expect(placeIn(net, ipv4('10.20.41.22'))).toBe('outside')
    // RFC 3021: both addresses of a /31 are hosts.
    expect(placeIn(subnet('10.20.40.4/31'), ipv4('10.20.40.4'))).toBe('host')
    expect(placeIn(subnet('10.20.40.4/31'), ipv4('10.20.40.5'))).toBe('host')
  })

  test.each([
    ['10.20.40.22/24', 'subnet.host-bits', '10.20.40.0/24'],
    ['10.20.40.0', 'subnet.no-mask', '10.20.40.0/24'],
    ['10.20.40.0/33', 'subnet.mask', undefined],
    ['010.20.40.0/24', 'subnet.address', '10.20.40.0/24'],
    ['', 'subnet.blank', undefined],
  ])('%j is refused as %s and offers %s', (text, code, offer) => {
    const read = parseSubnet(text)
    expect(read).toMatchObject({ ok: false, refusal: { code } })
    expect(!read.ok && read.refusal.offers[0]?.value).toBe(offer)
  })

  test('a network may be written with a dotted mask', () => {
    expect(formatSubnet(subnet('10.20.40.0 255.255.255.0'))).toBe('10.20.40.0/24')
    expect(formatSubnet(subnet('10.20.40.0/255.255.255.128'))).toBe('10.20.40.0/25')
  })
})

describe('subnet masks', () => {
  test.each([
    ['255.255.255.0', 24],
    ['/24', 24],
    ['24', 24],
    ['255.255.240.0', 20],
    ['255.255.255.255', 32],
    ['0.0.0.0', 0],
  ])('%s is %d bits', (text, bits) => expect(parseMask(text)).toEqual({ ok: true, value: bits }))

  test.each([
    ['255.255.0.255', 'mask.gaps', undefined],
    ['0.0.0.255', 'mask.wildcard', '255.255.255.0'],
    ['255.255.255.256', 'mask.not-a-mask', undefined],
    ['33', 'number.prefix-length.range', undefined],
  ])('%s is refused as %s and offers %s', (text, code, offer) => {
    const read = parseMask(text)
    expect(read).toMatchObject({ ok: false, refusal: { code } })
    expect(!read.ok && read.refusal.offers[0]?.value).toBe(offer)
  })
})
