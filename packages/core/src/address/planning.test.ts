import fc from 'fast-check'
import { checkPlan } from './checkPlan'
import { freeAddresses, freeAddressNear, freeCount } from './free'
import { likelyIntended } from './intended'
import { formatIpv4, ipv4, ipv4FromBits } from './ipv4'
import type { Plan, PlannedNetwork, PlannedPort } from './plan'
import { indexPlan } from './planIndex'
import { prefixLength } from './prefix'
import { formatRanges, inRange, joinRanges, parseRange, parseRanges } from './range'
import { whoCanTalk } from './reach'
import { hostsOf, parseSubnet, type Subnet } from './subnet'

const subnet = (text: string): Subnet => {
  const read = parseSubnet(text)
  if (!read.ok) throw new Error(read.refusal.what)
  return read.value
}
const ranges = (text: string) => {
  const read = parseRanges(text)
  if (!read.ok) throw new Error(read.refusal.what)
  return read.value
}
const process: PlannedNetwork = {
  id: 'n1',
  name: 'process',
  subnet: subnet('10.20.40.0/24'),
  gateway: ipv4('10.20.40.1'),
  dhcp: ranges('10.20.40.150-199'),
  reserved: ranges('10.20.40.2-9, 10.20.40.240-254'),
}
const port = (tag: string, address: string, more: Partial<PlannedPort> = {}): PlannedPort => ({
  id: tag,
  tag,
  networkId: 'n1',
  address: ipv4(address),
  gateway: ipv4('10.20.40.1'),
  proven: false,
  ...more,
})
const plan = (ports: readonly PlannedPort[], more: Partial<Plan> = {}): Plan => ({
  networks: [process],
  ports,
  laptop: [],
  ...more,
})
const found = (made: Plan) => checkPlan(made).map((finding) => `${finding.subject.id}: ${finding.rule}`)

describe('findings of a plan', () => {
  test('a good plan has none', () => {
    expect(checkPlan(plan([port('PLC-101', '10.20.40.10'), port('PD-101', '10.20.40.21')]))).toEqual([])
  })

  test.each<[string, PlannedPort, string]>([
    ['the network itself', port('X', '10.20.40.0'), 'address.network-address'],
    ['the broadcast address', port('X', '10.20.40.255'), 'address.broadcast-address'],
    ['another subnet', port('X', '10.20.41.20'), 'address.outside-network'],
    ['a public address', port('X', '11.20.40.22'), 'address.public-by-mistake'],
    ['link-local', port('X', '169.254.3.4'), 'address.link-local'],
    ['loopback', port('X', '127.0.0.1'), 'address.special-block'],
    ['the DHCP range', port('X', '10.20.40.157'), 'address.inside-dhcp-range'],
    ['a reserved range', port('X', '10.20.40.5'), 'address.reserved'],
    ['the gateway’s address', port('X', '10.20.40.1', { gateway: undefined }), 'address.is-gateway'],
    ['itself as gateway', port('X', '10.20.40.22', { gateway: ipv4('10.20.40.22') }), 'address.gateway-is-self'],
    ['a gateway outside', port('X', '10.20.40.22', { gateway: ipv4('10.20.41.1') }), 'address.gateway-outside'],
    ['no gateway', port('X', '10.20.40.22', { gateway: undefined }), 'address.gateway-missing'],
    ['another mask', port('X', '10.20.40.22', { prefix: prefixLength(25) }), 'address.mask-differs'],
  ])('%s', (_what, made, rule) => {
    expect(found(plan([made]))).toContain(`X: ${rule}`)
  })

  test('two devices at one address, each with the other named and a free address offered', () => {
    const findings = checkPlan(plan([port('INV-301', '10.20.40.60'), port('UPS-401', '10.20.40.60')]))
    expect(findings.map((finding) => finding.rule)).toEqual(['address.duplicate', 'address.duplicate'])
    expect(findings[1]?.others).toEqual([{ kind: 'port', id: 'INV-301' }])
    expect(findings[1]?.fixes.map((fix) => fix.label)).toEqual([
      'Move UPS-401 to 10.20.40.61',
      'Move INV-301 to 10.20.40.61',
    ])
  })

  test('a device that is proven where it is, is not moved; the other one is', () => {
    const findings = checkPlan(plan([port('INV-301', '10.20.40.60', { proven: true }), port('UPS-401', '10.20.40.60')]))
    expect(findings[0]?.fixes.map((fix) => fix.label)).toEqual(['Move UPS-401 to 10.20.40.61'])
  })

  test('one hardware address written down for two devices', () => {
    const mac = '02:5E:0B:10:7C:14'
    expect(
      found(plan([port('A', '10.20.40.21', { mac }), port('B', '10.20.40.22', { mac }), port('C', '10.20.40.23')])),
    ).toEqual(['A: address.mac-twice', 'B: address.mac-twice'])
  })

  test('this laptop on the address of a device', () => {
    const laptop = [{ interfaceName: 'eth0', address: ipv4('10.20.40.22'), prefix: prefixLength(24) }]
    expect(found(plan([port('PD-102', '10.20.40.22')], { laptop }))).toEqual(['PD-102: address.laptop-clash'])
  })

  test('overlapping networks, a gateway and a range outside', () => {
    const second: PlannedNetwork = {
      ...process,
      id: 'n2',
      name: 'edge',
      subnet: subnet('10.20.40.128/25'),
      gateway: ipv4('10.20.41.1'),
      dhcp: ranges('10.20.41.5-9'),
      reserved: [],
    }
    expect(found(plan([], { networks: [process, second] }))).toEqual([
      'n1: network.overlap',
      'n2: network.overlap',
      'n2: network.gateway-outside',
      'n2: network.range-outside',
    ])
  })

  test('a mistyped first octet is seen and the intended address offered first', () => {
    const home: PlannedNetwork = {
      ...process,
      subnet: subnet('192.168.20.0/24'),
      gateway: undefined,
      dhcp: [],
      reserved: [],
    }
    const [finding] = checkPlan(plan([port('PD-101', '193.168.20.14', { gateway: undefined })], { networks: [home] }))
    expect(finding?.rule).toBe('address.public-by-mistake')
    expect(finding?.fixes[0]?.edits).toEqual([
      { subject: { kind: 'port', id: 'PD-101' }, field: 'address', value: '192.168.20.14' },
    ])
  })

  test('a proposal never makes a finding', () => {
    const host = fc.integer({ min: 0, max: 255 }).map((n) => ipv4FromBits(0x0a142800 + n))
    fc.assert(
      fc.property(fc.uniqueArray(host, { maxLength: 60 }), host, (taken, near) => {
        const ports = taken.map((address, k) => port(`D${k}`, formatIpv4(address)))
        const proposal = indexPlan(plan(ports)).propose(process, near)
        if (proposal === undefined) return
        const own = checkPlan(plan([...ports, port('NEW', formatIpv4(proposal))])).filter(
          (finding) => finding.subject.id === 'NEW',
        )
        expect(own).toEqual([])
      }),
    )
  })
})

describe('free addresses', () => {
  const taken = {
    addresses: new Set([ipv4('10.20.40.10'), ipv4('10.20.40.11')]),
    ranges: [...process.dhcp, ...process.reserved],
  }

  test('are hosts, not taken, not kept back; their count is right by counting', () => {
    const all = [...freeAddresses(process.subnet, taken)]
    expect(all).toHaveLength(freeCount(process.subnet, taken))
    // 254 hosts less 8 and 15 reserved, 50 leased, 2 held.
    expect(all).toHaveLength(254 - 8 - 15 - 50 - 2)
    expect(all.every((address) => inRange(hostsOf(process.subnet), address))).toBe(true)
  })

  test('the nearest one above, else the nearest below, else none', () => {
    expect(formatIpv4(freeAddressNear(process.subnet, taken, ipv4('10.20.40.10')) as never)).toBe('10.20.40.12')
    expect(formatIpv4(freeAddressNear(process.subnet, taken, ipv4('10.20.40.245')) as never)).toBe('10.20.40.239')
    const full = { addresses: new Set<never>(), ranges: ranges('10.20.40.0-255') }
    expect(freeAddressNear(process.subnet, full, ipv4('10.20.40.10'))).toBeUndefined()
  })
})

describe('ranges', () => {
  test('read in full or with the last octet alone, joined where they touch', () => {
    expect(formatRanges(ranges('10.20.40.150-199; 10.20.40.200 - 10.20.40.210'))).toBe(
      '10.20.40.150-10.20.40.199, 10.20.40.200-10.20.40.210',
    )
    expect(formatRanges(joinRanges(ranges('10.0.0.5-9, 10.0.0.10-12, 10.0.0.20')))).toBe(
      '10.0.0.5-10.0.0.12, 10.0.0.20',
    )
  })
  test.each([
    ['10.20.40.199-150', 'range.backwards'],
    ['10.20.40.1-2-3', 'range.form'],
    ['10.20.40.300-301', 'range.first'],
    ['10.20.40.1-300', 'range.last'],
  ])('%s is refused as %s', (text, code) => expect(parseRange(text)).toMatchObject({ ok: false, refusal: { code } }))
})

describe('who can talk to whom', () => {
  const end = (address: string, prefix: number, gateway?: string) => ({
    address: ipv4(address),
    prefix: prefixLength(prefix),
    gateway: gateway ? ipv4(gateway) : undefined,
  })

  test('each direction by its own mask: requests may arrive and answers be lost', () => {
    // The laptop with /16 takes the device for a neighbour; the device with /24 does not. RFC 1122 3.3.1.1.
    expect(whoCanTalk(end('10.20.1.5', 16), end('10.20.40.22', 24))).toEqual({
      there: 'direct',
      back: 'no-gateway',
      direct: false,
      oneWay: true,
    })
    expect(whoCanTalk(end('10.20.40.5', 24), end('10.20.40.22', 24)).direct).toBe(true)
    expect(whoCanTalk(end('10.20.40.5', 24, '10.20.40.1'), end('10.20.41.22', 24, '10.20.41.22'))).toMatchObject({
      there: 'gateway',
      back: 'bad-gateway',
    })
  })
  test('an address that is the broadcast address by the other’s mask', () => {
    expect(whoCanTalk(end('10.20.40.5', 25), end('10.20.40.127', 24)).there).toBe('broadcast')
  })
})

describe('what was probably meant', () => {
  test.each([
    ['193.168.20.14', [], '192.168.20.14'],
    ['192.186.1.5', [], '192.168.1.5'],
    ['11.20.40.22', ['10.20.40.0/24'], '10.20.40.22'],
    ['10.20.4.22', ['10.20.40.0/24'], '10.20.40.22'],
  ])('%s in %j: %s', (text, networks, expected) => {
    const [likely] = likelyIntended(ipv4(text), networks.map(subnet))
    expect(likely === undefined ? 'none' : formatIpv4(likely)).toBe(expected)
  })
  test('a far address has no likely meaning', () =>
    expect(likelyIntended(ipv4('85.1.2.3'), [process.subnet])).toEqual([]))
})
