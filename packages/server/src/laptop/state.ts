import { execFile } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { platform } from 'node:os'
import { promisify } from 'node:util'
import type { Bench } from '@calm/bench'
import type { LaptopState } from '@calm/core/procedure'
import type { Mode } from '@calm/core/job'
import { laptopInterfaces } from './interfaces'

const run = promisify(execFile)

/** The laptop as it is now: its own adapters on the plant, the simulated one on the bench. */
export async function laptopState(mode: Mode, bench: Bench | undefined): Promise<LaptopState> {
  if (mode === 'bench' && bench) return benchLaptopState(bench)
  const neighbours = await readNeighbours()
  const interfaces = laptopInterfaces().map(({ name, address, prefix, loopback }) => ({
    name,
    address,
    prefix,
    loopback,
    link: linkOf(name),
    wireless: isWireless(name),
  }))
  const notes = [
    ...(interfaces.some((adapter) => !adapter.loopback)
      ? []
      : ['This laptop has no adapter with an address: no cable, or all are off.']),
    ...('note' in neighbours ? [neighbours.note] : []),
  ]
  return { interfaces, neighbours: 'list' in neighbours ? neighbours.list : null, notes }
}

function benchLaptopState(bench: Bench): LaptopState {
  const { addresses, cable } = bench.laptop
  const interfaces = addresses.map(({ address, prefix }) => ({
    name: 'bench0',
    address,
    prefix,
    link: true,
    wireless: false,
    loopback: false,
  }))
  return {
    interfaces,
    neighbours: bench.neighbours().map((each) => ({ ...each, adapter: 'bench0' })),
    notes: cable === 'switch' ? [] : [`The cable is straight in ${cable}.`],
  }
}

/** @source Linux, Documentation/ABI/testing/sysfs-class-net, operstate: "unknown" says nothing of the link */
const linkStates: Readonly<Record<string, boolean>> = {
  up: true,
  down: false,
  lowerlayerdown: false,
  notpresent: false,
  dormant: false,
}

function linkOf(name: string): boolean | null {
  try {
    return linkStates[readFileSync(`/sys/class/net/${name}/operstate`, 'utf8').trim()] ?? null
  } catch {
    return null
  }
}

function isWireless(name: string): boolean | null {
  if (platform() !== 'linux') return /^(wi-?fi|wlan|wireless)/i.test(name) ? true : null
  return existsSync(`/sys/class/net/${name}/wireless`)
}

type Neighbours = { readonly list: NonNullable<LaptopState['neighbours']> } | { readonly note: string }

/** The neighbour table, where the system lets it be read. */
async function readNeighbours(): Promise<Neighbours> {
  try {
    if (platform() === 'linux') return { list: parseLinuxTable(readFileSync('/proc/net/arp', 'utf8')) }
    const { stdout } = await run('arp', ['-a'], { timeout: 3_000 })
    return { list: parseArpList(stdout) }
  } catch (reason) {
    const code = (reason as NodeJS.ErrnoException).code ?? String(reason)
    return {
      note: `The neighbour table cannot be read here (${code}). Compare hardware addresses on the labels instead.`,
    }
  }
}

/** @source proc(5), /proc/net/arp: address, type, flags, hardware address, mask, device */
export function parseLinuxTable(text: string): NonNullable<LaptopState['neighbours']> {
  return text
    .split('\n')
    .slice(1)
    .flatMap((line) => {
      const [address, , , hardwareAddress, , adapter] = line.trim().split(/\s+/)
      return address && hardwareAddress && adapter
        ? [{ address, hardwareAddress: hardwareAddress.toUpperCase(), adapter }]
        : []
    })
}

/** The two common forms of `arp -a`: "? (10.0.0.1) at 2:5e:b:1:2:3 on en0" and columns with hyphens. From memory. */
export function parseArpList(text: string): NonNullable<LaptopState['neighbours']> {
  let adapter = ''
  return text.split(/\r?\n/).flatMap((line) => {
    const head = /(\d+\.\d+\.\d+\.\d+) --- /.exec(line)
    if (head?.[1]) adapter = head[1]
    const found = /(\d+\.\d+\.\d+\.\d+)\)?\s+(?:at\s+)?((?:[0-9a-f]{1,2}[:-]){5}[0-9a-f]{1,2})(?:\s+on\s+(\S+))?/i.exec(
      line,
    )
    if (!found?.[1] || !found[2]) return []
    const pairs = found[2].split(/[:-]/).map((pair) => pair.padStart(2, '0').toUpperCase())
    return [{ address: found[1], hardwareAddress: pairs.join(':'), adapter: found[3] ?? adapter }]
  })
}
