import type { Finding } from '../findings'
import { checkPlan } from './checkPlan'
import { ranges, subnet } from './fixtures'
import { ipv4 } from './ipv4'
import type { Plan, PlannedNetwork, PlannedPort } from './plan'
import { prefixLength } from './prefix'

// What each finding says word by word, and each way out with the very edits it makes: a proposal that changes another
// field, or the same field of another row, is worse than none.

const hall: PlannedNetwork = {
  id: 'n1',
  name: 'Hall',
  subnet: subnet('10.20.40.0/24'),
  gateway: ipv4('10.20.40.1'),
  dhcp: ranges('10.20.40.150-199'),
  reserved: ranges('10.20.40.2-9'),
}
const bare: PlannedNetwork = { ...hall, gateway: undefined, dhcp: [], reserved: [] }
const port = (address: string | undefined, more: Partial<PlannedPort> = {}): PlannedPort => ({
  id: 'p1',
  tag: 'X',
  networkId: 'n1',
  address: address === undefined ? undefined : ipv4(address),
  gateway: ipv4('10.20.40.1'),
  proven: false,
  ...more,
})
const free = { gateway: undefined, leased: true } as const
const findingsOf = (ports: readonly PlannedPort[], more: Partial<Plan> = {}) =>
  checkPlan({ networks: [hall], ports, laptop: [], ...more })

/** A finding as one reads it; each way out as `label | side effect | kind id field = value`. */
function told(finding: Finding) {
  return {
    rule: finding.rule,
    about: [finding.subject, ...finding.others].map((each) => `${each.kind} ${each.id}`),
    found: finding.found,
    expected: finding.expected,
    why: finding.why,
    fixes: finding.fixes.map((fix) =>
      [
        fix.label,
        fix.sideEffect,
        ...fix.edits.map((edit) => `${edit.subject.kind} ${edit.subject.id} ${edit.field} = ${edit.value}`),
      ].join(' | '),
    ),
  }
}
const only = (ports: readonly PlannedPort[], more: Partial<Plan> = {}) => {
  const findings = findingsOf(ports, more)
  expect(findings.map((finding) => finding.rule)).toHaveLength(1)
  return findings.map(told)[0]
}
const PLAN = 'Changes the plan only. Nothing is sent to a device.'
const move = (to: string, tag = 'X', id = 'p1') => `Move ${tag} to ${to} | ${PLAN} | port ${id} address = ${to}`

describe('a port in a network', () => {
  test('on the first, the last and the gateway’s address', () => {
    expect(only([port('10.20.40.0', free)])).toEqual({
      rule: 'address.network-address',
      about: ['port p1'],
      found: '10.20.40.0',
      expected: 'a host address of 10.20.40.0/24',
      why: 'X would take the first address of Hall, which names the network. Most devices refuse it.',
      fixes: [move('10.20.40.10')],
    })
    expect(only([port('10.20.40.255', free)])).toEqual({
      rule: 'address.broadcast-address',
      about: ['port p1'],
      found: '10.20.40.255',
      expected: 'a host address of 10.20.40.0/24',
      why: 'X would take the last address of Hall, which speaks to every device at once.',
      fixes: [move('10.20.40.254')],
    })
    expect(only([port('10.20.40.1', free)])).toEqual({
      rule: 'address.is-gateway',
      about: ['port p1'],
      found: '10.20.40.1',
      expected: 'an address that the router does not have',
      why: 'X would take the address of the router of Hall. All that leaves the subnet would go to it.',
      fixes: [move('10.20.40.10')],
    })
  })

  test('in a range that is leased or kept; a lease may lie in the first, and a seen device is never moved', () => {
    expect(only([port('10.20.40.150')])).toEqual({
      rule: 'address.inside-dhcp-range',
      about: ['port p1'],
      found: '10.20.40.150',
      expected: 'an address outside 10.20.40.150-10.20.40.199',
      why: 'The DHCP server may give the address of X to another device. It works until that day.',
      fixes: [move('10.20.40.200')],
    })
    expect(only([port('10.20.40.9')])).toEqual({
      rule: 'address.reserved',
      about: ['port p1'],
      found: '10.20.40.9',
      expected: 'an address outside 10.20.40.2-10.20.40.9',
      why: 'Hall keeps this range back; X takes one of it.',
      fixes: [move('10.20.40.10')],
    })
    expect(findingsOf([port('10.20.40.199', { leased: true })])).toEqual([])
    expect(only([port('10.20.40.199', { proven: true })])?.fixes).toEqual([])
    const two = { ...hall, dhcp: ranges('10.20.40.100-110, 10.20.40.150-199') }
    expect(only([port('10.20.40.105')], { networks: [two] })?.rule).toBe('address.inside-dhcp-range')
  })

  test('outside of it: what was meant first, then any that is free', () => {
    expect(only([port('10.20.41.22', free)])).toEqual({
      rule: 'address.outside-network',
      about: ['port p1'],
      found: '10.20.41.22',
      expected: 'an address in 10.20.40.0/24',
      why: 'X is planned for Hall. From there it could be reached only through a router.',
      fixes: [move('10.20.40.22'), move('10.20.40.10')],
    })
    expect(only([port('10.20.41.22', { ...free, proven: true })])?.fixes).toEqual([])
    // Of an address that nothing of the plan resembles no likely one is named.
    expect(only([port('192.168.77.5', free)])?.fixes).toEqual([move('10.20.40.10')])
  })

  test('public, special or self-given', () => {
    expect(only([port('11.20.40.22', free)])).toEqual({
      rule: 'address.public-by-mistake',
      about: ['port p1'],
      found: '11.20.40.22',
      expected: 'a private address, probably 10.20.40.22',
      why: '11.20.40.22 is a public address and in no network of this job. One number differs from 10.20.40.22.',
      fixes: [move('10.20.40.22'), move('10.20.40.10')],
    })
    expect(only([port('8.8.9.9', free)])).toMatchObject({
      expected: 'a private address',
      why: '8.8.9.9 is a public address and in no network of this job.',
      fixes: [move('10.20.40.10')],
    })
    expect(only([port('11.20.40.22', { ...free, proven: true })])?.fixes).toEqual([])
    expect(only([port('127.0.0.1', free)])).toEqual({
      rule: 'address.special-block',
      about: ['port p1'],
      found: '127.0.0.1',
      expected: 'a private address',
      why: '127.0.0.1 lies in a block kept for: loopback (127.0.0.0/8, RFC 6890 table 4; RFC 1122).',
      fixes: [move('10.20.40.10')],
    })
    const low = { ...bare, subnet: subnet('172.16.4.0/24') }
    expect(only([port('127.16.4.20', free)], { networks: [low] })).toMatchObject({
      expected: 'a private address, probably 172.16.4.20',
      why: '127.16.4.20 lies in a block kept for: loopback (127.0.0.0/8, RFC 6890 table 4; RFC 1122). One number differs from 172.16.4.20.',
      fixes: [move('172.16.4.20'), move('172.16.4.1')],
    })
    expect(only([port('127.16.4.20', { ...free, proven: true })], { networks: [low] })?.fixes).toEqual([])
    expect(told(findingsOf([port('169.254.3.4', free)]).find(({ rule }) => rule === 'address.link-local')!)).toEqual({
      rule: 'address.link-local',
      about: ['port p1'],
      found: '169.254.3.4',
      expected: 'an address of one of the networks',
      why: 'X asked for an address, nobody answered, and it gave itself one.',
      fixes: [move('10.20.40.10')],
    })
  })
})

describe('a port without a network', () => {
  const unsaid = ['address.network-unsaid']
  const rulesOf = (of: PlannedPort) => findingsOf([of]).map(({ rule }) => rule)

  test('it is to be said; beside that it is held against the private blocks alone', () => {
    expect(only([port('10.99.0.0', { networkId: undefined, gateway: undefined })])).toEqual({
      rule: 'address.network-unsaid',
      about: ['port p1'],
      found: '10.99.0.0, no network',
      expected: 'a network of the job that holds it',
      why: 'Nothing sets or looks for X until it is said which network it is in.',
      fixes: [],
    })
    expect(only([port('10.20.40.22', { networkId: undefined, gateway: undefined })])).toMatchObject({
      expected: 'the network that holds it: Hall',
      fixes: [`Put X into Hall | ${PLAN} | port p1 networkId = n1`],
    })
    const far = findingsOf([port('11.20.40.22', { networkId: undefined, gateway: undefined })])
    expect(far.map(({ rule }) => rule)).toEqual(expect.arrayContaining([...unsaid, 'address.public-by-mistake']))
    expect(told(far.find(({ rule }) => rule !== unsaid[0])!).fixes).toEqual([move('10.20.40.22')])
  })

  test('no mask, no gateway, no range is asked of it', () => {
    const loose = { networkId: undefined, prefix: prefixLength(24), gateway: undefined }
    expect(rulesOf(port('10.20.40.5', loose))).toEqual(unsaid)
  })
})

describe('masks and gateways', () => {
  test('a narrower mask and a wider one, each with what comes of it', () => {
    const finding = (bits: number) => told(findingsOf([port('10.20.40.22', { prefix: prefixLength(bits) })])[0]!)
    expect(finding(25)).toEqual({
      rule: 'address.mask-differs',
      about: ['port p1'],
      found: '255.255.255.128',
      expected: '255.255.255.0',
      why: 'By its own mask X takes part of Hall for another network and answers through a gateway.',
      fixes: [`Use 255.255.255.0 | ${PLAN} | port p1 prefix = 24`],
    })
    expect(finding(16)).toMatchObject({
      found: '255.255.0.0',
      why: 'By its own mask X takes foreign addresses for neighbours and never asks the gateway.',
    })
    expect(findingsOf([port('10.20.40.22', { prefix: prefixLength(24) })])).toEqual([])
  })

  test('none, itself, or one that its own mask cannot reach', () => {
    expect(only([port('10.20.40.22', { gateway: undefined })])).toEqual({
      rule: 'address.gateway-missing',
      about: ['port p1'],
      found: 'none',
      expected: '10.20.40.1',
      why: 'X can be reached from its own subnet only. On an isolated network that may be wanted.',
      fixes: [`Fill in 10.20.40.1 | ${PLAN} | port p1 gateway = 10.20.40.1`],
    })
    expect(findingsOf([port('10.20.40.22', { gateway: undefined })], { networks: [bare] })).toEqual([])
    expect(only([port('10.20.40.22', { gateway: ipv4('10.20.40.22') })])).toEqual({
      rule: 'address.gateway-is-self',
      about: ['port p1'],
      found: '10.20.40.22',
      expected: '10.20.40.1',
      why: 'X would send everything that leaves its subnet to itself.',
      fixes: [`Use 10.20.40.1 | ${PLAN} | port p1 gateway = 10.20.40.1`],
    })
    const self = port('10.20.40.22', { gateway: ipv4('10.20.40.22') })
    expect(only([self], { networks: [bare] })).toMatchObject({
      expected: 'no gateway',
      fixes: [`Leave the gateway empty | ${PLAN} | port p1 gateway = null`],
    })
    expect(only([port('10.20.40.22', { gateway: ipv4('10.20.41.1') })])).toEqual({
      rule: 'address.gateway-outside',
      about: ['port p1'],
      found: '10.20.41.1',
      expected: 'a host of 10.20.40.0/24, or none',
      why: 'By its own mask X has no way to its gateway. What leaves the subnet is lost.',
      fixes: [
        `Use 10.20.40.1, the gateway of Hall | ${PLAN} | port p1 gateway = 10.20.40.1`,
        'Leave the gateway empty | Nothing then leaves its subnet. | port p1 gateway = null',
      ],
    })
  })

  test('a port on the gateway’s own address is never offered itself', () => {
    const [, self] = findingsOf([port('10.20.40.1', { gateway: ipv4('10.20.40.1') })]).map(told)
    expect(self).toMatchObject({
      rule: 'address.gateway-is-self',
      fixes: [`Leave the gateway empty | ${PLAN} | port p1 gateway = null`],
    })
  })

  test('the network’s gateway is offered only where it is another one, and only where there is one', () => {
    const empty = 'Leave the gateway empty | Nothing then leaves its subnet. | port p1 gateway = null'
    const odd = { ...hall, gateway: ipv4('10.20.41.1') }
    const wrong = port('10.20.40.22', { gateway: ipv4('10.20.41.1') })
    const finding = (network: PlannedNetwork) =>
      findingsOf([wrong], { networks: [network] }).find(({ rule }) => rule === 'address.gateway-outside')
    expect(told(finding(odd)!).fixes).toEqual([empty])
    expect(told(finding(bare)!).fixes).toEqual([empty])
    // Its own mask counts before that of its network.
    expect(findingsOf([{ ...wrong, prefix: prefixLength(16) }]).map(({ rule }) => rule)).toEqual([
      'address.mask-differs',
    ])
    const alone = port('10.20.40.22', { networkId: undefined, gateway: ipv4('10.20.41.1') })
    const others = (of: PlannedPort) => findingsOf([of]).filter(({ rule }) => rule !== 'address.network-unsaid')
    expect(others(alone)).toEqual([])
    expect(others({ ...alone, prefix: prefixLength(24) })[0]?.expected).toBe('a host of 10.20.40.0/24, or none')
  })
})

describe('two that meet', () => {
  test('at one address: each names the other, and either may be moved', () => {
    const other = port('10.20.40.60', { id: 'p2', tag: 'Y' })
    const third = port('10.20.40.60', { id: 'p3', tag: 'Z' })
    expect(findingsOf([port('10.20.40.60'), other, third]).map(told)[0]).toEqual({
      rule: 'address.duplicate',
      about: ['port p1', 'port p2', 'port p3'],
      found: '10.20.40.60',
      expected: 'an address that no other device has',
      why: 'X and Y and Z are headed for 10.20.40.60. A controller would hear whichever of them spoke last.',
      fixes: [move('10.20.40.61'), move('10.20.40.61', 'Y', 'p2')],
    })
  })

  test('under one hardware address: no way out but reading the labels again, and no address is needed for it', () => {
    const mac = '02-00-5e-00-00-01'
    const pair = [port(undefined, { mac }), port('10.20.40.61', { id: 'p2', tag: 'Y', mac })]
    expect(findingsOf(pair).map(told)[0]).toEqual({
      rule: 'address.mac-twice',
      about: ['port p1', 'port p2'],
      found: mac,
      expected: 'a hardware address that no other port has',
      why: `X and Y are written down with ${mac}. Read both labels again.`,
      fixes: [],
    })
    expect(findingsOf([port('10.20.40.60', { mac })])).toEqual([])
    expect(findingsOf([port('10.20.40.60'), port('10.20.40.61', { id: 'p2', tag: 'Y' })])).toEqual([])
  })

  test('with the laptop', () => {
    const laptop = [
      { interfaceName: 'wlan0', address: ipv4('10.20.40.70'), prefix: prefixLength(24) },
      { interfaceName: 'eth0', address: ipv4('10.20.40.60'), prefix: prefixLength(24) },
    ]
    expect(only([port('10.20.40.60')], { laptop })).toEqual({
      rule: 'address.laptop-clash',
      about: ['port p1'],
      found: '10.20.40.60',
      expected: 'different addresses for laptop and device',
      why: 'This laptop has 10.20.40.60 on eth0 now. Change the laptop before X is switched on.',
      fixes: [move('10.20.40.61')],
    })
    // What is proposed is not the laptop's other address either.
    expect(
      only([port('10.20.40.0', free)], { laptop: [{ ...laptop[0]!, address: ipv4('10.20.40.10') }] })?.fixes,
    ).toEqual([move('10.20.40.11')])
  })
})

describe('a network', () => {
  test('with a gateway that is no host of it', () => {
    const network = { ...bare, gateway: ipv4('10.20.40.255') }
    expect(only([], { networks: [network] })).toEqual({
      rule: 'network.gateway-outside',
      about: ['network n1'],
      found: '10.20.40.255',
      expected: 'a host of 10.20.40.0/24',
      why: 'No device in Hall could reach this gateway.',
      fixes: [
        'Use 10.20.40.1, the first host | Ask the owner of the network first. | network n1 gateway = 10.20.40.1',
        'Leave the gateway empty | Nothing then leaves this network. | network n1 gateway = null',
      ],
    })
    expect(findingsOf([], { networks: [bare] })).toEqual([])
  })

  test('with a range that begins before it or ends after it', () => {
    const network = { ...bare, dhcp: ranges('10.20.39.250-10.20.40.5'), reserved: ranges('10.20.40.250-10.20.41.5') }
    expect(only([], { networks: [network] })).toEqual({
      rule: 'network.range-outside',
      about: ['network n1'],
      found: '10.20.39.250-10.20.40.5, 10.20.40.250-10.20.41.5',
      expected: 'ranges inside 10.20.40.0/24',
      why: 'What lies outside Hall keeps nothing back in it.',
      fixes: [],
    })
  })

  test('that shares addresses with another', () => {
    const part = { ...bare, id: 'n2', name: 'Part', subnet: subnet('10.20.40.128/25') }
    const apart = { ...bare, id: 'n3', name: 'Apart', subnet: subnet('10.20.41.0/24') }
    const findings = findingsOf([], { networks: [bare, part, apart] }).map(told)
    expect(findings).toHaveLength(2)
    expect(findings[0]).toEqual({
      rule: 'network.overlap',
      about: ['network n1', 'network n2'],
      found: '10.20.40.0/24',
      expected: 'blocks that share no address',
      why: 'Hall and Part (10.20.40.128/25) share addresses. A laptop in both sends to whichever route it likes.',
      fixes: [],
    })
  })
})
