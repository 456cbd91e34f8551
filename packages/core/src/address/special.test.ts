import ipaddr from 'ipaddr.js'
import fc from 'fast-check'
import { formatIpv4, ipv4, ipv4FromBits } from './ipv4'
import { isPrivate, isPublic, specialBlockOf } from './special'

describe('special-purpose blocks', () => {
  test.each([
    ['10.0.0.0', 'private', 'RFC 1918'],
    ['10.255.255.255', 'private', 'RFC 1918'],
    ['172.16.0.0', 'private', 'RFC 1918'],
    ['172.31.255.255', 'private', 'RFC 1918'],
    ['192.168.255.255', 'private', 'RFC 1918'],
    ['169.254.7.9', 'link-local', 'RFC 3927'],
    ['192.0.2.1', 'documentation', 'RFC 5737'],
    ['198.51.100.1', 'documentation', 'RFC 5737'],
    ['203.0.113.1', 'documentation', 'RFC 5737'],
    ['127.20.40.50', 'loopback', 'RFC 6890 table 4; RFC 1122'],
    ['239.1.2.3', 'multicast', 'RFC 5771'],
  ])('%s is %s (%s)', (text, kind, source) => {
    expect(specialBlockOf(ipv4(text))).toMatchObject({ kind, source })
  })

  // 193.168.20.14 is public: the classic mistyped first octet. The neighbours of the private blocks are public too.
  test.each([
    '193.168.20.14',
    '9.255.255.255',
    '11.0.0.0',
    '172.15.255.255',
    '172.32.0.0',
    '192.167.255.255',
    '192.169.0.0',
    '169.253.255.255',
  ])('%s is public', (text) => expect(isPublic(ipv4(text))).toBe(true))

  test('private addresses are those that an independent library calls private (ipaddr.js)', () => {
    const near = fc.oneof(
      fc.integer({ min: 0, max: 0xffffffff }),
      fc.integer({ min: 0x09f00000, max: 0x0b100000 }),
      fc.integer({ min: 0xac000000, max: 0xac400000 }),
      fc.integer({ min: 0xc0a00000, max: 0xc0b00000 }),
    )
    fc.assert(
      fc.property(near, (bits) => {
        const address = ipv4FromBits(bits)
        expect(isPrivate(address)).toBe(ipaddr.IPv4.parse(formatIpv4(address)).range() === 'private')
      }),
    )
  })
})
