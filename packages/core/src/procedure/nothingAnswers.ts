import { contains, formatSubnet, parseIpv4, parseSubnet, prefixLength, subnetOf } from '../address'

/** The laptop as it stands: its adapters, and whom it has heard of. */
export interface LaptopState {
  readonly interfaces: readonly LaptopAdapter[]
  /** `null` where the table cannot be read on this system. */
  readonly neighbours:
    readonly { readonly address: string; readonly hardwareAddress: string; readonly adapter: string }[] | null
  /** What could not be read, in a sentence each. */
  readonly notes: readonly string[]
}

export interface LaptopAdapter {
  readonly name: string
  readonly address: string
  readonly prefix: number
  /** `null` where the system does not say. */
  readonly link: boolean | null
  readonly wireless: boolean | null
  readonly loopback: boolean
}

/** What was seen at an address. */
export interface Seen {
  readonly address: string
  readonly port: number
  /** `refused`: somebody is there, the port is closed. */
  readonly connection: 'open' | 'refused' | 'silent'
  readonly securePort: 'open' | 'refused' | 'silent'
  readonly identity: string | null
  readonly expectedIdentity: string
}

export interface Cause {
  readonly id: string
  readonly question: string
  /** `cleared`: it is not that. `likely`: it is. `ask`: only a person can see it. */
  readonly verdict: 'cleared' | 'likely' | 'ask'
  readonly found: string
  readonly todo: string
}

/**
 * Why nothing answers, cheapest cause first: each is cleared, likely, or for a person to see. Walking stops to be needed
 * at the first likely one, but all are told.
 * @source common practice, no source
 */
export function nothingAnswers(laptop: LaptopState, seen: Seen): readonly Cause[] {
  const wired = laptop.interfaces.filter((adapter) => !adapter.loopback && adapter.wireless !== true)
  const near = laptop.interfaces.filter((adapter) => !adapter.loopback && inSubnet(adapter, seen.address))
  const linked = wired.filter((adapter) => adapter.link !== false)
  const neighbour = laptop.neighbours?.find((each) => each.address === seen.address)
  const unset = neighbour && /^(00[:-]?){6}$/.test(neighbour.hardwareAddress)
  const wireless = near.filter((adapter) => adapter.wireless === true)
  const cause = (id: string, question: string, verdict: Cause['verdict'], found: string, todo: string): Cause => ({
    id,
    question,
    verdict,
    found,
    todo,
  })
  return [
    cause(
      'link',
      'Is there a link?',
      linked.length > 0 ? (linked.some((adapter) => adapter.link === null) ? 'ask' : 'cleared') : 'likely',
      linked.length > 0
        ? linked.map((adapter) => adapter.name).join(', ')
        : 'No wired adapter of this laptop has a link.',
      'See the lamp beside the socket; other cable, other port.',
    ),
    cause(
      'subnet',
      'Is the laptop in its subnet?',
      near.length > 0 ? 'cleared' : 'likely',
      near.length > 0
        ? near.map(adapterText).join(', ')
        : `None of ${wired.map(adapterText).join(', ') || 'its adapters'} is in the subnet of ${seen.address}.`,
      'Give the laptop an address of that subnet.',
    ),
    cause(
      'hardware-address',
      'Has its hardware address been heard?',
      laptop.neighbours === null
        ? 'ask'
        : neighbour && !unset
          ? 'cleared'
          : seen.connection === 'silent'
            ? 'likely'
            : 'cleared',
      laptop.neighbours === null
        ? 'The neighbour table cannot be read here.'
        : neighbour && !unset
          ? neighbour.hardwareAddress
          : 'Nobody at this address has been heard.',
      'The device is off, still starting, at another address, or its cable is out.',
    ),
    cause(
      'port',
      'Is the port open?',
      seen.connection === 'refused' ? 'likely' : seen.connection === 'open' ? 'cleared' : 'ask',
      seen.connection === 'refused'
        ? `It answers, port ${seen.port} is closed.`
        : `Port ${seen.port}: ${seen.connection}.`,
      'Switch the service on in the device, or ask at the port that it has.',
    ),
    cause(
      'identity',
      'Is it the right one?',
      seen.identity === null ? 'ask' : seen.identity.includes(seen.expectedIdentity) ? 'cleared' : 'likely',
      seen.identity ?? 'It does not say what it is.',
      'Another device has this address: pull the plug and see who goes.',
    ),
    cause(
      'secure',
      'Does its page want the secure scheme?',
      seen.securePort === 'open' && seen.connection !== 'open'
        ? 'likely'
        : seen.securePort === 'open'
          ? 'cleared'
          : 'ask',
      `Port 443: ${seen.securePort}.`,
      'Open the page with https.',
    ),
    cause(
      'wireless',
      'Does wireless take the way?',
      wireless.length > 0
        ? 'likely'
        : laptop.interfaces.some((adapter) => adapter.wireless === null)
          ? 'ask'
          : 'cleared',
      wireless.length > 0
        ? `${wireless.map(adapterText).join(', ')} is in the same subnet.`
        : 'No wireless adapter is in that subnet.',
      'Switch wireless off for the moment.',
    ),
    cause(
      'firewall',
      'Does a firewall drop it?',
      'ask',
      'Only a person can see that here.',
      'Allow this program in the firewall of the laptop.',
    ),
    cause(
      'stale',
      'Is the neighbour entry stale?',
      'ask',
      neighbour ? `${neighbour.address} is ${neighbour.hardwareAddress}.` : 'No entry.',
      'After a swap the table still has the old hardware address: clear it, or wait some minutes.',
    ),
  ]
}

function inSubnet(adapter: LaptopAdapter, address: string): boolean {
  const own = parseIpv4(adapter.address)
  const to = parseIpv4(address)
  return own.ok && to.ok && contains(subnetOf(own.value, prefixLength(adapter.prefix)), to.value)
}

const adapterText = (adapter: LaptopAdapter) => `${adapter.name} ${adapter.address}/${adapter.prefix}`

/** Whether the laptop is in a subnet, given as CIDR. */
export function laptopIsIn(laptop: LaptopState, cidr: string): boolean {
  const subnet = parseSubnet(cidr)
  if (!subnet.ok) return false
  return laptop.interfaces.some((adapter) => {
    const own = parseIpv4(adapter.address)
    if (!own.ok || adapter.loopback || adapter.link === false) return false
    return formatSubnet(subnetOf(own.value, prefixLength(adapter.prefix))) === formatSubnet(subnet.value)
  })
}

/** Whether the laptop is in the subnet of an address: from elsewhere silence says nothing. */
export function laptopSees(laptop: LaptopState, address: string): boolean {
  const to = parseIpv4(address)
  return laptop.interfaces.some((adapter) => {
    const own = parseIpv4(adapter.address)
    if (!own.ok || !to.ok || adapter.link === false) return false
    return contains(subnetOf(own.value, prefixLength(adapter.prefix)), to.value)
  })
}

/** Whether an adapter in the subnet of an address has a link for sure: with its cable out silence says nothing. */
export const laptopHasLinkTo = (laptop: LaptopState, address: string): boolean =>
  laptop.interfaces.some(
    (adapter) => adapter.link === true && laptopSees({ ...laptop, interfaces: [adapter] }, address),
  )
