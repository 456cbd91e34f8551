import { formatNode, nodeFamily, type BusNode } from '../bus'
import { deviceOf, lineMedia, type Device, type Job, type Line } from '../job'
import { kindFacts, type DeviceRole } from '../kind'

/** One box of the picture: a network, a line, a device, or many alike taken together. */
export interface TopologyBox {
  readonly id: string
  readonly what: 'network' | 'line' | 'device' | 'many'
  readonly name: string
  /** In smaller letters below or beside the name. */
  readonly more: string
  readonly role: DeviceRole | undefined
  /** Devices that it stands for. */
  readonly deviceIds: readonly string[]
}

/** Who hangs behind whom: from the network to the device, from the gateway to its line, from the rack to its slots. */
export interface TopologyLink {
  readonly from: string
  readonly to: string
  /** Address, node, slot, unit: by what the one is found at the other. */
  readonly by: string
}

export interface Topology {
  readonly boxes: readonly TopologyBox[]
  readonly links: readonly TopologyLink[]
}

/** So many alike in one place are taken together. */
const MANY = 8

/**
 * The picture of a job, to be laid out by whoever draws it.
 * @param unfolded boxes of many that are to be shown one by one
 */
export function topologyOf(job: Job, unfolded: ReadonlySet<string> = new Set()): Topology {
  const links: TopologyLink[] = []
  const lineById = new Map(job.lines.map((line) => [line.id, line]))
  for (const device of job.devices) links.push(...linksOf(job, device, lineById))
  const boxes: TopologyBox[] = [
    ...job.networks.map((network): TopologyBox => ({
      id: network.id,
      what: 'network',
      name: network.name,
      more: network.cidr,
      role: undefined,
      deviceIds: [],
    })),
    ...job.lines.map((line): TopologyBox => ({
      id: line.id,
      what: 'line',
      name: line.name,
      more: `${lineMedia[line.medium].name}${line.settings ? `, ${line.settings}` : ''}`,
      role: undefined,
      deviceIds: [],
    })),
    ...job.devices.map((device): TopologyBox => ({
      id: device.id,
      what: 'device',
      name: device.tag,
      more: device.what || kindFacts(device.kind, job.kinds).name,
      role: kindFacts(device.kind, job.kinds).role,
      deviceIds: [device.id],
    })),
  ]
  return folded(job, { boxes, links }, unfolded)
}

function linksOf(job: Job, device: Device, lineById: ReadonlyMap<string, Line>): readonly TopologyLink[] {
  const links: TopologyLink[] = []
  for (const port of device.ports)
    if (port.networkId !== null) links.push({ from: port.networkId, to: device.id, by: lastPart(port.address) })
  for (const node of device.nodes) {
    const line = lineById.get(node.lineId)
    if (!line) continue
    const written = node.node === null ? '' : formatNode(node.node as BusNode, nodeFamily(line.family))
    const by = line.medium === 'backplane' && !node.isMaster ? `slot ${written}` : written
    links.push(node.isMaster ? { from: device.id, to: line.id, by } : { from: line.id, to: device.id, by })
  }
  // On a line with what it hangs behind, the line says it already.
  const before = device.behindId === null ? undefined : deviceOf(job, device.behindId)
  const together = before?.nodes.some((node) => device.nodes.some((own) => own.lineId === node.lineId))
  if (before && !together)
    links.push({ from: before.id, to: device.id, by: device.unitId === null ? '' : `unit ${device.unitId}` })
  return links
}

const lastPart = (address: string | null) => (address === null ? '' : `.${address.split('.').at(-1) ?? ''}`)

/** Takes together what is alike: ends of the picture that hang at one place and are of one kind. */
function folded(job: Job, { boxes, links }: Topology, unfolded: ReadonlySet<string>): Topology {
  const kindOf = new Map(job.devices.map((device) => [device.id, device.kind]))
  const from = new Map<string, string[]>()
  const isParent = new Set(links.map((link) => link.from))
  for (const link of links) from.set(link.to, [...(from.get(link.to) ?? []), link.from])
  const groups = new Map<string, string[]>()
  for (const [id, parents] of from) {
    const kind = kindOf.get(id)
    if (isParent.has(id) || kind === undefined) continue
    const key = [...new Set(parents)].sort().join('+') + `/${kind}`
    groups.set(key, [...(groups.get(key) ?? []), id])
  }
  const groupOf = new Map<string, string>()
  const many: TopologyBox[] = []
  for (const [key, ids] of groups) {
    if (ids.length < MANY || unfolded.has(key)) continue
    const facts = kindFacts(kindOf.get(ids[0] ?? '') ?? '', job.kinds)
    for (const id of ids) groupOf.set(id, key)
    many.push({
      id: key,
      what: 'many',
      name: `${ids.length} × ${facts.name}`,
      more: 'open',
      role: facts.role,
      deviceIds: ids,
    })
  }
  if (many.length === 0) return { boxes, links }
  const linkOnce = new Map<string, TopologyLink>()
  for (const link of links) {
    const group = groupOf.get(link.to)
    const made = group === undefined ? link : { from: link.from, to: group, by: '' }
    linkOnce.set(`${made.from}>${made.to}>${made.by}`, made)
  }
  return { boxes: [...boxes.filter((box) => !groupOf.has(box.id)), ...many], links: [...linkOnce.values()] }
}
