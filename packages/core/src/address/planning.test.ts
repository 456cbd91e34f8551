import fc from 'fast-check'
import { checkPlan } from './checkPlan'
import { ranges, subnet } from './fixtures'
import { freeAddresses, freeAddressNear, freeCount } from './free'
import { likelyIntended } from './intended'
import { formatIpv4, ipv4, ipv4FromBits } from './ipv4'
import type { Plan, PlannedNetwork, PlannedPort } from './plan'
import { indexPlan } from './planIndex'
import { prefixLength } from './prefix'
import { formatRanges, inRange, joinRanges, parseRange } from './range'
import { whoCanTalk } from './reach'
import { hostsOf } from './subnet'
import { slipsBetween } from './typing'

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

/** Fewer where every small change to the code is tried against it: by hand, `npm run mutate -- address`. */
const RUNS = globalThis.process.env.MUTATE ? 60 : 600

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

  test('a lease brings its gateway with it', () => {
    // RFC 2132 3.5: the router option of the lease.
    expect(found(plan([port('X', '10.20.40.22', { gateway: undefined, leased: true })]))).toEqual([])
  })

  test('a taken, kept or leased address is never the one that was meant', () => {
    const fixOf = (wrong: PlannedPort, more: readonly PlannedPort[] = []) =>
      checkPlan(plan([...more, wrong]))
        .find((finding) => finding.subject.id === 'X')
        ?.fixes.map((fix) => fix.label)
    const none = { gateway: undefined }
    expect(fixOf(port('X', '11.20.40.22', none))?.[0]).toBe('Move X to 10.20.40.22')
    for (const [last, more] of [
      [22, [port('PD', '10.20.40.22')]],
      [1, []],
      [5, []],
      [157, []],
      [0, []],
      [255, []],
    ] as const) {
      expect(fixOf(port('X', `11.20.40.${last}`, none), more)).not.toContain(`Move X to 10.20.40.${last}`)
    }
    expect(checkPlan(plan([port('X', '127.20.40.22', none)]))[0]).toMatchObject({ rule: 'address.special-block' })
    const edge = { ...process, subnet: subnet('172.16.4.0/24'), gateway: undefined, dhcp: [], reserved: [] }
    const [loop] = checkPlan(plan([port('X', '127.16.4.20', none)], { networks: [edge] }))
    expect(loop).toMatchObject({ rule: 'address.special-block', expected: 'a private address, probably 172.16.4.20' })
    expect(loop?.fixes[0]?.label).toBe('Move X to 172.16.4.20')
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
    ['127.16.4.20', [], '172.16.4.20'],
    ['172.168.1.5', [], '172.18.1.5'],
    ['10.20.40.200', ['10.20.40.0/26'], '10.20.40.20'],
    ['10.20.140.22', ['10.20.32.0/20'], '10.20.40.22'],
    ['11.20.40.22', ['10.20.40.0/24'], '10.20.40.22'],
    ['85.20.40.22', ['10.20.40.0/24'], '10.20.40.22'],
    // A host of its network: never its first or last address.
    ['11.20.40.0', ['10.20.40.0/24'], 'none'],
    ['11.20.40.255', ['10.20.40.0/24'], 'none'],
    ['193.168.20.255', [], 'none'],
    ['10.20.4.22', ['10.20.40.0/24'], '10.20.40.22'],
  ])('%s in %j: %s', (text, networks, expected) => {
    const [likely] = likelyIntended(ipv4(text), networks.map(subnet))
    expect(likely === undefined ? 'none' : formatIpv4(likely)).toBe(expected)
  })
  test('nearest by typing first, then by number', () => {
    // Each of these is one digit put into 4: 34 is 30 away, 40 to 47 are 36 to 43 away. Two slips come after one.
    const found = likelyIntended(ipv4('10.20.4.22'), [subnet('10.20.32.0/20')]).map(formatIpv4)
    const [one, two] = [
      [34, 40, 41, 42, 43, 44, 45, 46, 47],
      [32, 33, 35, 36, 37, 38, 39],
    ]
    expect(found).toEqual([...one, ...two].map((k) => `10.20.${k}.22`))
    // 14 is 41 exchanged, and 40 by two slips: both are offered, and where only two slips lead there, that is.
    const wide = (text: string) => likelyIntended(ipv4(text), [subnet('10.20.40.0/23')]).map(formatIpv4)
    expect(wide('10.20.14.7')).toEqual(['10.20.41.7', '10.20.40.7'])
    expect(wide('10.20.48.7')).toEqual(['10.20.41.7', '10.20.40.7'])
    expect(wide('10.20.33.7')).toEqual([])
    // 127 exchanged is nearer than any other first octet of a private block.
    expect(likelyIntended(ipv4('127.16.4.20'), []).map(formatIpv4)).toEqual(['172.16.4.20'])
    expect(likelyIntended(ipv4('172.168.1.5'), []).map(formatIpv4)).toEqual(['172.18.1.5', '172.16.1.5', '192.168.1.5'])
  })

  // The four slips of typing (Damerau 1964) and the keys beside each other.
  test.each([
    ['127', '172', 1],
    ['19', '193', 1],
    ['1922', '192', 1],
    ['193', '192', 1],
    ['10', '11', 1],
    ['7', '9', 2],
    ['85', '10', 4],
    ['192', '192', 0],
  ])('%s for %s: %d slips', (a, b, slips) => expect(slipsBetween(a, b)).toBe(slips))

  test('what is offered is free, a host, and makes no new finding', () => {
    const networks = [
      process,
      {
        ...process,
        id: 'n2',
        name: 'edge',
        subnet: subnet('10.20.41.0/26'),
        gateway: ipv4('10.20.41.1'),
        dhcp: ranges('10.20.41.20-30'),
        reserved: [],
      },
    ]
    const octet = fc.integer({ min: 0, max: 255 })
    const near = fc.tuple(
      fc.constantFrom(
        '10.20.40',
        '10.20.41',
        '11.20.40',
        '10.2.40',
        '10.20.4',
        '127.20.40',
        '172.20.40',
        '10.21.41',
        '93.20.40',
      ),
      octet,
    )
    let offered = 0
    fc.assert(
      fc.property(
        near,
        fc.uniqueArray(octet, { maxLength: 40 }),
        fc.constantFrom('n1', 'n2', undefined),
        ([base, last], taken, networkId) => {
          const others = taken.map((k) => port(`D${k}`, `10.20.40.${k}`))
          const wrong = port('X', `${base}.${last}`, { networkId, gateway: undefined })
          const before = checkPlan(plan([...others, wrong], { networks })).filter((each) => each.subject.id === 'X')
          for (const finding of before) {
            const [fix] = finding.fixes
            if (!/public|special|outside/.test(finding.rule) || !fix) continue
            const to = fix.edits[0]?.value ?? ''
            const after = checkPlan(plan([...others, { ...wrong, address: ipv4(String(to)) }], { networks }))
            const left = after.filter((each) => each.subject.id === 'X').map((each) => each.rule)
            // Of a port whose network is not said that stays to be said.
            const known = ['address.gateway-missing', ...(wrong.networkId ? [] : ['address.network-unsaid'])]
            expect(left.filter((rule) => !known.includes(rule))).toEqual([])
            offered += 1
          }
        },
      ),
      { numRuns: RUNS, seed: 9 },
    )
    expect(offered).toBeGreaterThan(RUNS / 6)
  })

  test('a far address has no likely meaning', () =>
    expect(likelyIntended(ipv4('85.1.2.3'), [process.subnet])).toEqual([]))
})
