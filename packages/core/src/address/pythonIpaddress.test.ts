import { spawnSync } from 'node:child_process'
import fc from 'fast-check'
import {
  blockOf,
  contains,
  formatIpv4,
  formatMask,
  hostCount,
  hostsOf,
  ipv4FromBits,
  parseIpv4,
  parseSubnet,
  prefixLength,
  specialBlockOf,
  subnetOf,
  subnetsOverlap,
} from '.'

/** Python's standard library as the other opinion: one process, questions and answers as JSON. */
function ask<T>(program: string, questions: unknown): T {
  const { status, stdout, stderr } = spawnSync('python3', ['-c', program], {
    input: JSON.stringify(questions),
    encoding: 'utf8',
  })
  if (status !== 0) throw new Error(`python3: ${stderr}`)
  return JSON.parse(stdout) as T
}
const PROLOGUE = 'import json, sys, ipaddress as ip\nq = json.load(sys.stdin)\n'

const sample = <T>(arbitrary: fc.Arbitrary<T>, count: number) =>
  fc.sample(arbitrary, { numRuns: count, seed: 20_261_125 })
const bits = fc.integer({ min: 0, max: 0xffff_ffff })

// Source: the Python Standard Library, module ipaddress (3.8 and later).
describe('beside Python’s ipaddress', () => {
  test('a thousand subnets: base, last address, mask, hosts, size', () => {
    const nets = sample(fc.tuple(bits, fc.integer({ min: 0, max: 32 })), 1_000)
    const theirs = ask<readonly (readonly [string, string, string, number, string, string])[]>(
      `${PROLOGUE}out = []
for a, p in q:
    n = ip.ip_network((a, p), strict=False)
    plain = p < 31
    first = n.network_address + 1 if plain else n.network_address
    last = n.broadcast_address - 1 if plain else n.broadcast_address
    out.append([str(n.network_address), str(n.broadcast_address), str(n.netmask), int(last) - int(first) + 1, str(first), str(last)])
print(json.dumps(out))`,
      nets,
    )
    const ours = nets.map(([address, prefix]) => {
      const subnet = subnetOf(ipv4FromBits(address), prefixLength(prefix))
      const hosts = hostsOf(subnet)
      return [
        formatIpv4(subnet.base),
        formatIpv4(blockOf(subnet).last),
        formatMask(subnet.prefix),
        hostCount(subnet),
        formatIpv4(hosts.first),
        formatIpv4(hosts.last),
      ]
    })
    expect(ours).toEqual(theirs)
  })

  test('which address lies in which subnet, and which subnets overlap', () => {
    const near = fc.integer({ min: 0, max: 0xfff }).map((low) => 0x0a14_2800 + low)
    const pairs = sample(
      fc.tuple(near, fc.integer({ min: 20, max: 32 }), near, fc.integer({ min: 20, max: 32 })),
      1_000,
    )
    const theirs = ask<readonly (readonly [boolean, boolean])[]>(
      `${PROLOGUE}out = []
for a, p, b, r in q:
    n, m = ip.ip_network((a, p), strict=False), ip.ip_network((b, r), strict=False)
    out.append([ip.ip_address(b) in n, n.overlaps(m)])
print(json.dumps(out))`,
      pairs,
    )
    const ours = pairs.map(([a, p, b, r]) => {
      const [one, other] = [subnetOf(ipv4FromBits(a), prefixLength(p)), subnetOf(ipv4FromBits(b), prefixLength(r))]
      return [contains(one, ipv4FromBits(b)), subnetsOverlap(one, other)]
    })
    expect(ours).toEqual(theirs)
  })

  test('which texts are addresses and which are networks', () => {
    const part = fc.oneof(
      fc.integer({ min: 0, max: 300 }).map(String),
      fc.constantFrom('', '01', '007', '256', '-1', '1e1', '0x1f', ' 1', 'a', '١'),
    )
    const texts = sample(
      fc.array(part, { minLength: 3, maxLength: 5 }).map((parts) => parts.join('.')),
      1_500,
    )
    const withPrefix = texts.map((text, k) => `${text}/${[24, 0, 32, 33, '024', '', '-1', '255.255.255.0'][k % 8]}`)
    const theirs = ask<readonly (readonly [boolean, boolean])[]>(
      `${PROLOGUE}def ok(f, t):
    try:
        f(t)
        return True
    except ValueError:
        return False
print(json.dumps([[ok(ip.IPv4Address, a), ok(ip.IPv4Network, n)] for a, n in q]))`,
      texts.map((text, k) => [text, withPrefix[k]]),
    )
    const differ = texts.flatMap((text, k) => {
      // We take spaces around what was typed away, and read a prefix with a leading zero as a slip.
      if (text.trim() !== text) return []
      const network = withPrefix[k] ?? ''
      const address = parseIpv4(text).ok === theirs[k]?.[0] ? [] : [text]
      const subnet = /\/(024|$)/.test(network) || parseSubnet(network).ok === theirs[k]?.[1] ? [] : [network]
      return [...address, ...subnet]
    })
    expect(differ).toEqual([])
    expect(theirs.some(([good]) => good) && theirs.some(([good]) => !good)).toBe(true)
  })

  test('loopback, link-local, multicast, and the private blocks of RFC 1918', () => {
    const edges = [
      '127.0.0.0',
      '127.255.255.255',
      '128.0.0.0',
      '169.253.255.255',
      '169.254.0.0',
      '169.255.0.0',
      '224.0.0.0',
      '239.255.255.255',
      '240.0.0.0',
      '10.0.0.0',
      '11.0.0.0',
      '172.15.255.255',
      '172.16.0.0',
      '172.31.255.255',
      '172.32.0.0',
      '192.167.255.255',
      '192.168.0.0',
      '192.169.0.0',
    ]
    const addresses = [...edges, ...sample(bits, 2_000).map((each) => formatIpv4(ipv4FromBits(each)))]
    const theirs = ask<readonly (readonly boolean[])[]>(
      `${PROLOGUE}nets = [ip.ip_network(n) for n in ('10.0.0.0/8', '172.16.0.0/12', '192.168.0.0/16')]
print(json.dumps([[x.is_loopback, x.is_link_local, x.is_multicast, any(x in n for n in nets)] for x in map(ip.ip_address, q)]))`,
      addresses,
    )
    const ours = addresses.map((text) => {
      const reading = parseIpv4(text)
      const kind = reading.ok ? specialBlockOf(reading.value)?.kind : undefined
      return ['loopback', 'link-local', 'multicast', 'private'].map((each) => kind === each)
    })
    expect(ours).toEqual(theirs)
  })
})
