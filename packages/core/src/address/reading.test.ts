import { subnet } from './fixtures'
import { freeAddresses, freeAddressNear, freeCount, type Taken } from './free'
import { likelyIntended } from './intended'
import { formatIpv4, ipv4, ipv4FromBits, ipv4FromOctets, parseIpv4 } from './ipv4'
import { laptopAddresses } from './laptop'
import type { PlannedNetwork, PlannedPort } from './plan'
import { indexPlan } from './planIndex'
import { parseMask, prefixLength } from './prefix'
import { parseRange, parseRanges, rangesOverlap, rangeSize } from './range'
import { whoCanTalk } from './reach'

// What a typed text is refused for, with the reading that is offered instead; and what of a network is given away.

const range = (first: string, last: string) => ({ first: ipv4(first), last: ipv4(last) })

/** A refusal as `id | what | offers`; what is taken as the value. */
function read(result: ReturnType<typeof parseIpv4 | typeof parseMask | typeof parseRange>) {
  if (result.ok) return result.value
  const { refusal } = result
  return [refusal.code, refusal.what, ...refusal.offers.map((offer) => `${offer.label} = ${offer.value}`)].join(' | ')
}

describe('what an address may not be', () => {
  test.each([
    ['', 'ipv4.blank | The address is blank.'],
    ['  ', 'ipv4.blank | The address is blank.'],
    [
      '1.2.3.4/24',
      'ipv4.attached | "1.2.3.4/24" carries a mask. The mask has a field of its own. | Use 1.2.3.4 = 1.2.3.4',
    ],
    [
      '1.2.3.4 / 24',
      'ipv4.attached | "1.2.3.4 / 24" carries a mask. The mask has a field of its own. | Use 1.2.3.4 = 1.2.3.4',
    ],
    [
      '1.2.3.4:502',
      'ipv4.attached | "1.2.3.4:502" carries a port. The port has a field of its own. | Use 1.2.3.4 = 1.2.3.4',
    ],
    ['x1.2.3.4/24', 'ipv4.surrounded | "x1.2.3.4/24" has other characters around the address. | Use 1.2.3.4 = 1.2.3.4'],
    ['1.2.3.4/24x', 'ipv4.surrounded | "1.2.3.4/24x" has other characters around the address. | Use 1.2.3.4 = 1.2.3.4'],
    ['1,2,3,4', 'ipv4.separators | "1,2,3,4" has another separator than a point. | Use 1.2.3.4 = 1.2.3.4'],
    ['1 . 2.3.4', 'ipv4.separators | "1 . 2.3.4" has spaces inside. | Use 1.2.3.4 = 1.2.3.4'],
    ['1,2,3,', 'ipv4.separators | "1,2,3," has another separator than a point.'],
    ['1,2,3,255', 'ipv4.separators | "1,2,3,255" has another separator than a point. | Use 1.2.3.255 = 1.2.3.255'],
    ['1,2,3,256', 'ipv4.separators | "1,2,3,256" has another separator than a point.'],
    ['1.2.3', 'ipv4.parts | "1.2.3" has 3 of 4 numbers. Short forms are read differently by different programs.'],
    [
      '1.2..3.4',
      'ipv4.parts | "1.2..3.4" does not have four numbers with points between them. | Use 1.2.3.4 = 1.2.3.4',
    ],
    ['1.2..4', 'ipv4.parts | "1.2..4" does not have four numbers with points between them.'],
    ['1.2.3.4.5', 'ipv4.parts | "1.2.3.4.5" does not have four numbers with points between them.'],
    ['256.2.3.4', 'ipv4.octet-too-large | Number 1 is 256, above 255.'],
    ['1.2.300.4', 'ipv4.octet-too-large | Number 3 is 300, above 255.'],
    [
      '1.0002.3.4',
      'ipv4.octet-digits | Number 2 is written with 4 digits, 0002; at most three are used. | Use 1.2.3.4 = 1.2.3.4',
    ],
    [
      '010.2.3.4',
      'ipv4.leading-zero | "010.2.3.4" has leading zeros. A keypad shows them; some programs would read 010 as 8. | Use 10.2.3.4 = 10.2.3.4',
    ],
    ['lO.2.3.4', 'ipv4.look-alike | "lO.2.3.4" has letters that look like digits. | Use 10.2.3.4 = 10.2.3.4'],
    ['pump', 'ipv4.not-an-address | "pump" is not an IPv4 address.'],
  ])('"%s"', (typed, refused) => {
    expect(read(parseIpv4(typed))).toBe(refused)
  })

  test('a number that is none is a mistake of the program', () => {
    for (const bits of [-1, 0.5, 2 ** 32, Number.NaN]) expect(() => ipv4FromBits(bits)).toThrow(`Not 32 bits: ${bits}`)
    expect(formatIpv4(ipv4FromBits(0xffffffff))).toBe('255.255.255.255')
    expect(formatIpv4(ipv4FromOctets([0, 0, 0, 0]))).toBe('0.0.0.0')
    expect(() => ipv4('1.2.3')).toThrow('has 3 of 4 numbers')
    for (const bits of [-1, 0.5, 33]) expect(() => prefixLength(bits)).toThrow(`Not a prefix length: ${bits}`)
    expect([prefixLength(0), prefixLength(32)]).toEqual([0, 32])
  })
})

describe('what a mask may not be', () => {
  test.each([
    ['', 'mask.blank | The subnet mask is blank.'],
    [' ', 'mask.blank | The subnet mask is blank.'],
    ['pump', 'mask.not-a-mask | "pump" is not a subnet mask. "pump" is not an IPv4 address.'],
    [
      '255.255.255.O',
      'mask.not-a-mask | "255.255.255.O" is not a subnet mask. "255.255.255.O" has letters that look like digits. | Use 255.255.255.0 = 255.255.255.0',
    ],
    ['255.0.255.0', 'mask.gaps | 255.0.255.0 has a gap: in a subnet mask all ones stand before all zeros.'],
    [
      '0.0.0.255',
      'mask.wildcard | 0.0.0.255 is the mask turned inside out (a wildcard mask). | Use 255.255.255.0 = 255.255.255.0',
    ],
  ])('"%s"', (typed, refused) => {
    expect(read(parseMask(typed))).toBe(refused)
  })

  test('a prefix is taken with its stroke or without', () => {
    expect([' /24 ', '/ 24', '24', ' 255.255.255.0 '].map((typed) => read(parseMask(typed)))).toEqual([24, 24, 24, 24])
  })
})

describe('ranges', () => {
  test.each([
    [' ', 'range.blank | The range is blank.'],
    ['1.2.3.4-5-6', 'range.form | "1.2.3.4-5-6" has more than two ends.'],
    ['x-5', 'range.first | "x" is not an IPv4 address.'],
    ['1.2.3.4-x', 'range.last | "x" is not an IPv4 address.'],
    ['1.2.3.9-4', 'range.backwards | 1.2.3.9-4 ends before it begins. | Use 1.2.3.4-1.2.3.9 = 1.2.3.4-1.2.3.9'],
  ])('"%s" is refused', (typed, refused) => {
    expect(read(parseRange(typed))).toBe(refused)
  })

  test('the second end may be the last octet, the same address or missing', () => {
    expect(read(parseRange(' 1.2.3.4-9 '))).toEqual(range('1.2.3.4', '1.2.3.9'))
    expect(read(parseRange('1.2.3.4-.9'))).toEqual(range('1.2.3.4', '1.2.3.9'))
    expect(read(parseRange('1.2.3.4-1.2.4.9'))).toEqual(range('1.2.3.4', '1.2.4.9'))
    expect(read(parseRange('1.2.3.4-4'))).toEqual(range('1.2.3.4', '1.2.3.4'))
    expect(read(parseRange('1.2.3.4'))).toEqual(range('1.2.3.4', '1.2.3.4'))
  })

  test('a list skips what is blank and stops at the first that is refused', () => {
    expect(parseRanges(' , 1.2.3.4;\n1.2.3.6-7,')).toEqual({
      ok: true,
      value: [range('1.2.3.4', '1.2.3.4'), range('1.2.3.6', '1.2.3.7')],
    })
    expect(parseRanges('1.2.3.4, pump, 1.2.3.6')).toMatchObject({ ok: false, refusal: { code: 'range.first' } })
    expect(parseRanges('')).toEqual({ ok: true, value: [] })
  })

  test('how many, and whether two share one', () => {
    expect(rangeSize(range('1.2.3.4', '1.2.3.9'))).toBe(6)
    const middle = range('1.2.3.10', '1.2.3.20')
    const shared = (first: number, last: number) => rangesOverlap(middle, range(`1.2.3.${first}`, `1.2.3.${last}`))
    expect([shared(1, 9), shared(1, 10), shared(12, 13), shared(20, 30), shared(21, 30)]).toEqual([
      false,
      true,
      true,
      true,
      false,
    ])
  })
})

describe('what was probably meant', () => {
  const meant = (typed: string, networks: readonly string[]) =>
    likelyIntended(ipv4(typed), networks.map(subnet)).map(formatIpv4)

  test('a network that holds the address itself is not asked', () => {
    expect(meant('10.20.40.22', ['10.20.40.0/24'])).toEqual([])
  })

  test('nearest by typing, then by number, then the lower one', () => {
    expect(meant('10.20.42.22', ['10.20.40.0/24', '10.20.41.0/24', '10.20.43.0/24', '10.20.49.0/24'])).toEqual([
      '10.20.41.22',
      '10.20.43.22',
      '10.20.40.22',
      '10.20.49.22',
    ])
  })

  test('without a network the private blocks: nothing for a first or last number, nothing that is not private', () => {
    expect(meant('193.168.20.14', [])).toEqual(['192.168.20.14'])
    expect(meant('193.168.20.0', [])).toEqual([])
    expect(meant('193.168.20.255', [])).toEqual([])
    expect(meant('192.169.20.14', [])).toEqual(['192.168.20.14'])
    expect(meant('172.15.4.20', [])).toEqual(expect.arrayContaining(['172.16.4.20']))
    expect(meant('172.15.4.20', []).every((address) => /^172\.(1[6-9]|2\d|3[01])\./.test(address))).toBe(true)
    expect(meant('193.99.20.14', [])).toEqual([])
    expect(meant('1.2.3.4', [])).not.toContain('1.2.3.4')
  })
})

describe('what is free', () => {
  const taken = (addresses: readonly string[], ranges: Taken['ranges'] = []): Taken => ({
    addresses: new Set(addresses.map(ipv4)),
    ranges,
  })
  const small = subnet('10.0.0.0/29') // hosts .1 to .6
  const near = (held: Taken, from: string) => {
    const address = freeAddressNear(small, held, ipv4(from))
    return address === undefined ? undefined : formatIpv4(address)
  }

  test('from the first host to the last, inside a block where one is named', () => {
    const all = (within?: ReturnType<typeof range>) => [...freeAddresses(small, taken([]), within)].map(formatIpv4)
    expect(all()).toEqual(['10.0.0.1', '10.0.0.2', '10.0.0.3', '10.0.0.4', '10.0.0.5', '10.0.0.6'])
    expect(all(range('10.0.0.5', '10.0.0.200'))).toEqual(['10.0.0.5', '10.0.0.6'])
    expect(all(range('9.0.0.0', '10.0.0.2'))).toEqual(['10.0.0.1', '10.0.0.2'])
  })

  test('upwards first, then the nearest below, over what is kept', () => {
    expect(near(taken(['10.0.0.5', '10.0.0.6']), '10.0.0.5')).toBe('10.0.0.4')
    expect(near(taken(['10.0.0.5']), '10.0.0.5')).toBe('10.0.0.6')
    expect(near(taken([]), '10.0.0.6')).toBe('10.0.0.6')
    expect(near(taken([], [range('10.0.0.3', '10.0.0.6')]), '10.0.0.6')).toBe('10.0.0.2')
    expect(near(taken(['10.0.0.2', '10.0.0.3', '10.0.0.4', '10.0.0.5', '10.0.0.6']), '10.0.0.6')).toBe('10.0.0.1')
    expect(near(taken([]), '10.0.0.200')).toBe('10.0.0.6')
    expect(near(taken([], [range('10.0.0.1', '10.0.0.6')]), '10.0.0.3')).toBeUndefined()
  })

  test('counted: a host that is held and kept counts once, what lies outside not at all', () => {
    expect(freeCount(small, taken([]))).toBe(6)
    expect(freeCount(small, taken(['10.0.0.2', '10.0.0.0', '10.0.9.9'], [range('9.0.0.0', '10.0.0.2')]))).toBe(4)
    expect(freeCount(small, taken(['10.0.0.4', '10.0.0.5'], [range('10.0.0.6', '10.0.0.90')]))).toBe(3)
  })
})

describe('what a plan holds', () => {
  const wide: PlannedNetwork = {
    id: 'n1',
    name: 'Wide',
    subnet: subnet('10.0.0.0/24'),
    gateway: ipv4('10.0.0.1'),
    dhcp: [range('10.0.0.100', '10.0.0.120')],
    reserved: [range('10.0.0.2', '10.0.0.9')],
  }
  const part: PlannedNetwork = {
    ...wide,
    id: 'n2',
    name: 'Part',
    subnet: subnet('10.0.0.128/25'),
    gateway: ipv4('10.0.0.130'),
    dhcp: [],
    reserved: [],
  }
  const pair: PlannedNetwork = { ...part, id: 'n3', name: 'Pair', subnet: subnet('10.0.1.0/31'), gateway: undefined }
  const one: PlannedPort = { id: 'p1', tag: 'X', networkId: 'n1', address: ipv4('10.0.0.20'), mac: 'aa', proven: false }
  const laptop = [{ interfaceName: 'eth0', address: ipv4('10.0.0.30'), prefix: prefixLength(24) }]
  const index = indexPlan({ networks: [wide, part, pair], ports: [one], laptop })

  test('who holds what; nobody is an empty list', () => {
    expect(index.holders(ipv4('10.0.0.20'))).toEqual([one])
    expect(index.holders(ipv4('10.0.0.21'))).toEqual([])
    expect(index.withMac('aa')).toEqual([one])
    expect(index.withMac('bb')).toEqual([])
    expect([index.network('n2'), index.network(undefined), index.network('n9')]).toEqual([part, undefined, undefined])
    expect(index.overlapping(wide)).toEqual([part])
    expect(index.overlapping(pair)).toEqual([])
  })

  test('what may not be given away: ports, laptop, gateways and ends of every network on the same wire', () => {
    const held = [...index.taken(wide).addresses].map(formatIpv4).sort()
    expect(held).toEqual(
      ['10.0.0.20', '10.0.0.30', '10.0.0.1', '10.0.0.130', '10.0.0.0', '10.0.0.255', '10.0.0.128'].sort(),
    )
    expect(index.taken(wide).ranges).toEqual([...wide.dhcp, ...wide.reserved])
    expect(index.taken(part).ranges).toEqual([...wide.dhcp, ...wide.reserved])
    expect([...index.taken(pair).addresses]).toEqual([])
    expect(index.taken(wide)).toBe(index.taken(wide))
  })

  test('free is nobody’s, a host and outside every range of every network that holds it', () => {
    const free = (address: string) => index.isFree(ipv4(address))
    expect(['10.0.0.21', '10.0.1.0', '10.0.1.1', '192.168.1.1'].map(free)).toEqual([true, true, true, true])
    for (const address of ['20', '30', '1', '130', '0', '255', '128', '5', '110'])
      expect([address, free(`10.0.0.${address}`)]).toEqual([address, false])
    expect(formatIpv4(index.propose(wide)!)).toBe('10.0.0.10')
    expect(formatIpv4(index.propose(wide, ipv4('10.0.0.20'))!)).toBe('10.0.0.21')
  })
})

describe('the laptop', () => {
  test('its addresses without loopback and without what is no IPv4 address', () => {
    expect(
      laptopAddresses([
        { name: 'lo', address: '127.0.0.1', prefix: 8, loopback: true },
        { name: 'eth0', address: '10.0.0.30', prefix: 24, loopback: false },
        { name: 'eth0', address: 'fe80::1', prefix: 64, loopback: false },
      ]),
    ).toEqual([{ interfaceName: 'eth0', address: ipv4('10.0.0.30'), prefix: 24 }])
  })
})

describe('two ends', () => {
  const end = (address: string, bits: number) => ({ address: ipv4(address), prefix: prefixLength(bits) })
  test('both straight, one way only, or neither', () => {
    expect(whoCanTalk(end('10.0.0.1', 24), end('10.0.0.2', 24))).toMatchObject({ direct: true, oneWay: false })
    expect(whoCanTalk(end('10.0.0.1', 16), end('10.0.1.2', 24))).toMatchObject({ direct: false, oneWay: true })
    expect(whoCanTalk(end('10.0.1.2', 24), end('10.0.0.1', 16))).toMatchObject({ direct: false, oneWay: true })
    expect(whoCanTalk(end('10.0.0.1', 24), end('10.0.1.2', 24))).toMatchObject({ direct: false, oneWay: false })
    expect(whoCanTalk(end('10.0.0.1', 24), end('10.0.0.1', 24))).toMatchObject({ there: 'self', back: 'self' })
  })
})
