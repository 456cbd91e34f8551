import { nodeFamily, parseNode, type Bus, type BusNode, type NodeHolder } from '../bus'
import { kindFacts } from '../kind'
import type { Device, Job } from './model'

const RS485_UNITS = 'decimal-1-247'

/**
 * All buses of a job: its lines, and behind each gateway the units that it passes requests on to. A device that sits
 * on a line of its own numbering is not counted a second time by its unit id.
 */
export function busesOf(job: Job): readonly Bus[] {
  return [...job.lines.map((line) => lineAsBus(job, line.id, line.name, line.family)), ...unitsBehindGateways(job)]
}

function lineAsBus(job: Job, id: string, name: string, family: string): Bus {
  const holders = job.devices.flatMap((device) =>
    device.nodes
      .filter((node) => node.lineId === id)
      .map((node): NodeHolder => ({
        id: node.id,
        tag: node.name === '' ? device.tag : `${device.tag} ${node.name}`,
        node: node.node === null ? undefined : (node.node as BusNode),
        isMaster: node.isMaster,
        defaultNode: defaultNodeOf(job, device, family),
        isSettled: node.node !== null && wasFoundAt(device, node.node, family),
        about: { kind: 'node', id: node.id },
        field: 'node',
      })),
  )
  return { id, name, family: nodeFamily(family), holders }
}

function defaultNodeOf(job: Job, device: Device, family: string): BusNode | undefined {
  const own = kindFacts(device.kind, job.kinds).defaultNode
  return own === null || own.node === null || own.family !== family ? undefined : (own.node as BusNode)
}

/** As found, in words: `unit 3`, `node 12`, `station 07`, or the number alone; written as on the line. */
function wasFoundAt(device: Device, node: number, family: string): boolean {
  const written = /^(?:unit|node|station)?\s*(\d+)$/i.exec(device.asFound.trim())?.[1]
  const reading = written === undefined ? undefined : parseNode(written, nodeFamily(family))
  return reading?.ok === true && reading.value === node
}

function unitsBehindGateways(job: Job): readonly Bus[] {
  const numbered = new Set(job.lines.filter((line) => line.family === RS485_UNITS).map((line) => line.id))
  const behind = new Map<string, Device[]>()
  for (const device of job.devices) {
    if (device.nodes.some((node) => numbered.has(node.lineId))) continue
    if (device.behindId === null || device.unitId === null || device.unitId < 1 || device.unitId > 247) continue
    const known = behind.get(device.behindId)
    if (known) known.push(device)
    else behind.set(device.behindId, [device])
  }
  return job.devices.flatMap((gateway) => {
    const devices = behind.get(gateway.id)
    if (!devices) return []
    const holders = devices.map((device): NodeHolder => ({
      id: device.id,
      tag: device.tag,
      node: device.unitId as BusNode,
      isMaster: false,
      // Units behind a gateway are told apart by the plan alone: what they came with is a matter of first contact.
      defaultNode: undefined,
      isSettled: true,
      about: { kind: 'device', id: device.id },
      field: 'unitId',
    }))
    return [
      { id: `units-${gateway.id}`, name: `the units behind ${gateway.tag}`, family: nodeFamily(RS485_UNITS), holders },
    ]
  })
}
