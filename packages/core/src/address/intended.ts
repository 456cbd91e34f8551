import { ipv4FromOctets, octetsOf, type Ipv4 } from './ipv4'
import { isPrivate } from './special'
import { contains, type Subnet } from './subnet'

/**
 * Addresses that were probably meant when one octet was mistyped: the same octets but one, inside one of the
 * networks of the plan. When no network of the plan fits, the same host in a private block whose first octet is one
 * keystroke away: 193.168.20.14 for 192.168.20.14.
 *
 * @returns likeliest first; a wrong digit comes before a wrong whole octet
 * @source common practice, no source: the classic mistyped first octet
 */
export function likelyIntended(address: Ipv4, networks: readonly Subnet[]): readonly Ipv4[] {
  const octets = octetsOf(address)
  const candidates = new Map<Ipv4, number>()
  const consider = (candidate: Ipv4, changed: number, replacement: number) => {
    const distance = keystrokes(String(octets[changed]), String(replacement))
    const known = candidates.get(candidate)
    if (known === undefined || distance < known) candidates.set(candidate, distance)
  }
  for (const network of networks) {
    if (contains(network, address)) continue
    const base = octetsOf(network.base)
    for (let k = 0; k < 4; k += 1) {
      const changed = withOctet(octets, k, base[k] ?? 0)
      if (changed !== address && contains(network, changed)) consider(changed, k, base[k] ?? 0)
    }
  }
  if (candidates.size === 0) {
    for (const first of [10, 172, 192]) {
      const changed = withOctet(octets, 0, first)
      if (isPrivate(changed) && keystrokes(String(octets[0]), String(first)) <= 1) consider(changed, 0, first)
    }
    const second = withOctet(octets, 1, 168)
    if (octets[0] === 192 && keystrokes(String(octets[1]), '168') <= 1) consider(second, 1, 168)
  }
  return [...candidates].sort((a, b) => a[1] - b[1]).map(([candidate]) => candidate)
}

function withOctet(octets: readonly [number, number, number, number], index: number, value: number): Ipv4 {
  const changed: [number, number, number, number] = [...octets]
  changed[index] = value
  return ipv4FromOctets(changed)
}

/** Fewest single keystrokes (insert, leave out, replace, swap neighbours) between two texts. */
function keystrokes(a: string, b: string): number {
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, j) => j)]
  const at = (i: number, j: number) => rows[i]?.[j] ?? Infinity
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i]
    rows.push(row)
    for (let j = 1; j <= b.length; j += 1) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1
      let best = Math.min(at(i - 1, j) + 1, (row[j - 1] ?? Infinity) + 1, at(i - 1, j - 1) + same)
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) best = Math.min(best, at(i - 2, j - 2) + 1)
      row[j] = best
    }
  }
  return at(a.length, b.length)
}
