import fc from 'fast-check'
import ipaddr from 'ipaddr.js'
import { formatIpv4, ipv4FromBits, parseIpv4 } from './ipv4'

const refusalOf = (text: string) => {
  const read = parseIpv4(text)
  if (read.ok) throw new Error(`${text} was taken as ${formatIpv4(read.value)}`)
  return read.refusal
}

describe('reading an IPv4 address', () => {
  test.each(['0.0.0.0', '10.20.40.22', '192.168.1.1', '255.255.255.255'])('%s is taken as it stands', (text) => {
    const read = parseIpv4(`  ${text} `)
    expect(read.ok && formatIpv4(read.value)).toBe(text)
  })

  // Offers: what a keypad or a copied line most likely meant. Common practice, no source.
  test.each([
    ['10.20.40.256', 'ipv4.octet-too-large', undefined],
    ['10.20.4000.22', 'ipv4.octet-too-large', undefined],
    ['10.20.0040.22', 'ipv4.octet-digits', '10.20.40.22'],
    ['0010.0020.0040.0022', 'ipv4.octet-digits', '10.20.40.22'],
    ['010.020.040.022', 'ipv4.leading-zero', '10.20.40.22'],
    ['010.20.40.4', 'ipv4.leading-zero', '10.20.40.4'],
    ['10.20.40.4/33', 'ipv4.attached', '10.20.40.4'],
    ['10.20.40.4/24', 'ipv4.attached', '10.20.40.4'],
    ['10.20.40.4:502', 'ipv4.attached', '10.20.40.4'],
    ['10.20.40 .4', 'ipv4.separators', '10.20.40.4'],
    ['10 20 40 4', 'ipv4.separators', '10.20.40.4'],
    ['10,20,40,4', 'ipv4.separators', '10.20.40.4'],
    ['', 'ipv4.blank', undefined],
    ['   ', 'ipv4.blank', undefined],
    ['10.20.40', 'ipv4.parts', undefined],
    ['10.20.40.4.5', 'ipv4.parts', undefined],
    ['10..40.4', 'ipv4.parts', undefined],
    ['http://10.20.40.4/', 'ipv4.surrounded', '10.20.40.4'],
    ['1O.20.40.l', 'ipv4.look-alike', '10.20.40.1'],
    // Cut off at the letter it would be the address of another device. Common practice, no source.
    ['10.20.40.1O', 'ipv4.look-alike', '10.20.40.10'],
    ['l0.20.40.11', 'ipv4.look-alike', '10.20.40.11'],
    ['I10.20.40.1O3', 'ipv4.look-alike', '110.20.40.103'],
    ['fe80::1', 'ipv4.not-an-address', undefined],
  ])('%j is refused as %s and offers %s', (text, code, offer) => {
    const refusal = refusalOf(text)
    expect(refusal.code).toBe(code)
    expect(refusal.offers[0]?.value).toBe(offer)
    expect(refusal.what).toMatch(/\.$/)
  })

  test('an offer can itself be read', () => {
    for (const text of ['010.020.040.022', '10.20.40.4:502', '10,20,40,4']) {
      const [offer] = refusalOf(text).offers
      expect(parseIpv4(offer?.value ?? '').ok).toBe(true)
    }
  })

  test('printing and reading any 32 bits gives them back, and an independent library agrees (ipaddr.js)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 0xffffffff }), (bits) => {
        const text = formatIpv4(ipv4FromBits(bits))
        const read = parseIpv4(text)
        expect(read.ok && read.value).toBe(bits)
        const other = ipaddr.IPv4.parse(text).octets.reduce((sum, octet) => sum * 256 + octet, 0)
        expect(other).toBe(bits)
      }),
    )
  })

  test('whatever is taken, the strict reading of ipaddr.js takes too', () => {
    const part = fc.oneof(
      fc.integer({ min: 0, max: 300 }).map(String),
      fc.constantFrom('', '00', '01', '007', ' 1', '0x1'),
    )
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 5 }), (parts) => {
        const text = parts.join('.')
        if (parseIpv4(text).ok) expect(ipaddr.IPv4.isValidFourPartDecimal(text.trim())).toBe(true)
      }),
    )
  })
})
