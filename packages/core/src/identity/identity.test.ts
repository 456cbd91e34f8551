import fc from 'fast-check'
import { parseHardwareAddress } from './mac'
import { differences, parseHostName } from './names'
import { compareVersions, versionFits } from './version'

describe('hardware addresses', () => {
  test.each(['02:5e:0b:10:7c:14', '02-5E-0B-10-7C-14', '025e.0b10.7c14', '025E0B107C14', ' 02 5e 0b 10 7c 14 '])(
    '%j is one address',
    (text) => {
      expect(parseHardwareAddress(text)).toEqual({ ok: true, value: '02:5E:0B:10:7C:14' })
    },
  )

  test.each<[string, string, string | undefined]>([
    ['02:5E:0B:1O:7C:l4', 'mac.look-alike', '02:5E:0B:10:7C:14'],
    ['02:5E:0B:10:7C', 'mac.length', undefined],
    ['02:5E:0B:10:7C:1G', 'mac.digit', undefined],
    ['00:00:00:00:00:00', 'mac.zero', undefined],
    ['FF:FF:FF:FF:FF:FF', 'mac.group', undefined],
    ['01:00:5E:00:00:01', 'mac.group', undefined],
    ['', 'mac.blank', undefined],
  ])('%j is refused as %s and offers %s', (text, code, offer) => {
    const read = parseHardwareAddress(text)
    expect(read).toMatchObject({ ok: false, refusal: { code } })
    expect(!read.ok && read.refusal.offers[0]?.value).toBe(offer)
  })

  test('what is read is read again as itself', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 6, maxLength: 6 }), (bytes) => {
        const text = bytes.map((byte) => byte.toString(16).padStart(2, '0')).join('-')
        const read = parseHardwareAddress(text)
        if (read.ok) expect(parseHardwareAddress(read.value)).toEqual(read)
        else expect(((bytes[0] ?? 0) & 1) === 1 || bytes.every((byte) => byte === 0)).toBe(true)
      }),
    )
  })
})

describe('versions', () => {
  // The order of SemVer 2.0.0, clause 11, for the numbers; letters by common practice, no source.
  test.each([
    ['1.10', '1.9', 1],
    ['2.1', '2.1.1', -1],
    ['V3.2', '3.2', 0],
    ['3.0b', '3.0a', 1],
    ['10', '9.9.9', 1],
    ['01.2', '1.2', 0],
    ['1.2', '1.2-rc', 1],
    ['1.2-rc1', '1.2-beta2', 1],
    ['2.1', '2.1.0', 0],
    ['3.0a', '3.0', 1],
  ])('%s against %s', (a, b, order) => {
    expect(Math.sign(compareVersions(a, b))).toBe(order)
    expect(Math.sign(compareVersions(b, a))).toBe(order === 0 ? 0 : -order)
  })

  test('relations', () => {
    expect(versionFits('3.10', 'at-least', '3.9')).toBe(true)
    expect(versionFits('3.10', 'not-above', '3.9')).toBe(false)
    expect(versionFits('3.1', 'equal', 'v3.1')).toBe(true)
    expect(versionFits('0', 'any', '9')).toBe(true)
  })

  test('is an order: of any three, none is above itself by way of the others', () => {
    const version = fc.array(fc.nat(12), { minLength: 1, maxLength: 4 }).map((parts) => parts.join('.'))
    fc.assert(
      fc.property(version, version, version, (a, b, c) => {
        const sorted = [a, b, c].sort(compareVersions)
        expect(compareVersions(sorted[0] ?? '', sorted[2] ?? '')).toBeLessThanOrEqual(0)
      }),
    )
  })
})

describe('names', () => {
  // RFC 1123 2.1: a label may begin with a digit; RFC 952: no underscore.
  test.each(['plc-101', 'PLC101', '3com-test', 'a', 'pump.house.local', 'x'.repeat(63)])('%s is a host name', (text) =>
    expect(parseHostName(text).ok).toBe(true),
  )
  test.each([
    ['PLC_101', 'host.character'],
    ['plc 101', 'host.character'],
    ['-plc', 'host.hyphen'],
    ['plc-', 'host.hyphen'],
    ['a..b', 'host.empty-label'],
    ['x'.repeat(64), 'host.label-long'],
    ['10.20.40.5', 'host.number'],
    ['', 'host.blank'],
  ])('%s is refused as %s', (text, code) => expect(parseHostName(text)).toMatchObject({ ok: false, refusal: { code } }))
  test('an underscore is mended to a hyphen', () => {
    const read = parseHostName('PLC_101')
    expect(!read.ok && read.refusal.offers[0]?.value).toBe('PLC-101')
  })

  test('two names that should be equal: each differing letter, and whether it only looks alike', () => {
    expect(differences('PLC-1O1', 'PLC-101')).toEqual([{ at: 5, left: 'O', right: '0', looksAlike: true }])
    expect(differences('EM-501', 'EM-50I')).toEqual([{ at: 5, left: '1', right: 'I', looksAlike: true }])
    expect(differences('abc', 'abd')[0]?.looksAlike).toBe(false)
    expect(differences('ab', 'abc')).toEqual([{ at: 2, left: '', right: 'c', looksAlike: false }])
    expect(differences('same', 'same')).toEqual([])
  })
})
