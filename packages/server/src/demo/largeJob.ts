import { randomUUID } from 'node:crypto'
import type { Device, DeviceNode, Handshake, Job, Line, Network } from '@calm/core/job'
import { device, handshake, line, network, node, nothingYet, type PointLine, type TermLine } from './build'

/** How many of each kind stand in one hall, and the block of last octets that they are planned in. */
const hall: readonly {
  readonly kind: string
  readonly tag: string
  readonly what: string
  readonly count: number
  readonly from: number
}[] = [
  { kind: 'controller', tag: 'PLC', what: 'Compact controller', count: 4, from: 10 },
  { kind: 'drive', tag: 'PD', what: 'Pump drive', count: 30, from: 20 },
  { kind: 'remote-io', tag: 'RIO', what: 'Remote I/O head', count: 20, from: 60 },
  { kind: 'meter', tag: 'EM', what: 'Energy meter', count: 26, from: 90 },
]

/** Five halls of 80 devices: 400. Each of the 300 handshakes carries 20 points: 6 000. */
const HALLS = 5
const HANDSHAKES = 300
const POINTS = 20

/**
 * A large job for trying what scale does. Invented, and the same each time but for its ids. Here and there something is
 * wrong on purpose: an address wanted twice, one in the DHCP range, one mistyped.
 */
export function largeJob(): Job {
  const networks: Network[] = []
  const lines: Line[] = []
  const devices: Device[] = []
  for (let n = 1; n <= HALLS; n += 1) {
    const own = network({
      name: `hall ${n}`,
      cidr: `10.60.${n}.0/24`,
      gateway: `10.60.${n}.1`,
      vlan: 600 + n,
      dhcp: `10.60.${n}.200-10.60.${n}.239`,
      reserved: `10.60.${n}.2-10.60.${n}.9`,
    })
    networks.push(own)
    const bus = line({ name: `bus ${n}`, medium: 'token-bus', family: 'octal-0-77', settings: '156 kbit/s' })
    lines.push(bus)
    for (const { kind, tag, what, count, from } of hall) {
      for (let k = 0; k < count; k += 1) {
        const entry = {
          more: { place: `hall ${n}`, isolation: `Q${n}${k % 8}`, nodes: nodesOf(bus, kind, n, k) },
          tag: `${tag}-${n}${String(k + 1).padStart(2, '0')}`,
          what: `${what}, hall ${n}`,
          kind,
          network: own,
          address: plannedAddress(n, from + k, devices.length),
          unitId: 1,
          asFound: 'unknown',
        }
        devices.push(device(entry, devices.length + 1))
      }
    }
  }
  return {
    id: randomUUID(),
    version: 1,
    name: 'Three Rivers works',
    place: 'halls 1 to 5',
    mode: 'bench',
    ...nothingYet,
    lines,
    networks,
    devices,
    handshakes: handshakesOf(devices),
    forced: [],
  }
}

/** The first controller of a hall is the master of its bus; in the first hall it sits where a device needs to be. */
function nodesOf(bus: Line, kind: string, hallNumber: number, k: number): readonly DeviceNode[] {
  if (kind === 'remote-io') return [node(bus, k + 1)]
  return kind === 'controller' && k === 0 ? [node(bus, hallNumber === 1 ? 8 : 0, { isMaster: true })] : []
}

function plannedAddress(hallNumber: number, host: number, index: number): string {
  if (index % 97 === 60) return `10.60.${hallNumber}.${host - 1}`
  if (index % 131 === 70) return `10.60.${hallNumber}.${205 + (index % 20)}`
  if (index % 151 === 90) return `11.60.${hallNumber}.${host}`
  return `10.60.${hallNumber}.${host}`
}

function handshakesOf(devices: readonly Device[]): readonly Handshake[] {
  const controllers = devices.filter((each) => each.kind === 'controller')
  const asked = devices.filter((each) => each.kind !== 'controller').slice(0, HANDSHAKES)
  return asked.flatMap((each, k) => {
    const controller = controllers[k % controllers.length]
    if (!controller) return []
    const terms: readonly TermLine[] = [
      ['address', each.ports[0]?.address ?? ''],
      ['port', '502'],
      ['unit-id', '1'],
      ['function-code', '03', '03'],
      ['first-register', '0|protocol', '40001|five-digit'],
      ['count', '2', '2'],
      ['data-type', 'float32', 'float32'],
      ['word-order', 'ABCD', k % 45 === 12 ? 'CDAB' : 'ABCD'],
      ['scale', '1', '1'],
    ]
    const [first, ...more] = Array.from({ length: POINTS }, (_, p) => pointOf(each, p + 1))
    if (!first) return []
    const manual = 'its register list'
    return [handshake({ controller, device: each, terms, manual, point: first, morePoints: more }, k + 1)]
  })
}

const pointOf = (device: Device, number: number): PointLine => ({
  tag: `${device.tag.replace('-', '')}_V${String(number).padStart(2, '0')}`,
  quantity: `Value ${number}`,
  unit: '',
  decimals: 2,
  served: null,
  shownAt: '',
  reference: null,
  tolerance: { kind: 'percent-of-reading', percent: 1 },
})
