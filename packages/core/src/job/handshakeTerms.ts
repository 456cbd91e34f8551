import { nodeFamily, formatNode, type BusNode } from '../bus'
import { formatMask, parseSubnet, prefixLength } from '../address'
import { kindFacts } from '../kind'
import type { End, HandshakeTerms, TermContext, TermEntry, TermId, TermLine } from '../terms'
import { deviceOf } from './deviceOf'
import type { Device, Handshake, Job, Line, Network, Port } from './model'
import { knownTermsOf } from './knownTerms'
import { lineMates } from './lineMates'
import { reachedAt } from './reachedAt'
import { isSerial, lineOf, serialLineOf, stationsOn } from './serialLine'

/** Terms that the line-up holds, by end: they are edited there, in the device's own row. */
export const fromLineUp: Readonly<Partial<Record<TermId, readonly End[]>>> = {
  address: ['device'],
  mask: ['controller', 'device'],
  port: ['device'],
  'unit-id': ['device'],
  node: ['device'],
  'line-settings': ['controller'],
}

export const isFromLineUp = (id: TermId, end: End): boolean => fromLineUp[id]?.includes(end) ?? false

const ORIGIN = 'Line-up'

/**
 * All terms of a handshake: those stored with it, and those that the line-up knows. A device behind a gateway is
 * reached at the gateway's address.
 */
export function handshakeTermsOf(job: Job, handshake: Handshake): HandshakeTerms {
  const terms: Partial<Record<TermId, Partial<Record<End, TermEntry>>>> = {}
  const put = (id: TermId, end: End, entry: TermEntry) => {
    terms[id] = { ...terms[id], [end]: entry }
  }
  for (const term of handshake.terms) {
    if (isFromLineUp(term.termId, term.end)) continue
    const { text, origin, places } = term
    put(term.termId, term.end, {
      text,
      notation: term.notation ?? undefined,
      origin,
      ...(places.length > 0 && { places }),
    })
  }
  const controller = deviceOf(job, handshake.controllerId)
  const device = deviceOf(job, handshake.deviceId)
  const port = reachedAt(job, device)
  const planned = (id: TermId, end: End, text: string | undefined) => {
    if (text !== undefined) put(id, end, { text, origin: ORIGIN })
  }
  planned('address', 'device', port?.address ?? undefined)
  planned('mask', 'device', maskText(job, port))
  planned('mask', 'controller', maskText(job, controller?.ports[0]))
  planned('port', 'device', port ? String(port.tcpPort) : undefined)
  const line = serialLineOf(job, handshake)
  if (line && line.settings !== '')
    put('line-settings', 'controller', { text: line.settings, origin: `Line-up, ${line.name}` })
  if (handshake.exchange === 'bus') planned('node', 'device', nodeText(job, handshake))
  planned('unit-id', 'device', device?.unitId == null ? undefined : String(device.unitId))
  return terms
}

/**
 * What the agreement of a handshake's terms is judged with.
 * @param terms where they are known already
 */
export function termContextOf(job: Job, handshake: Handshake, terms?: HandshakeTerms): TermContext {
  const line = lineOf(job, handshake)
  const [controller, device] = [deviceOf(job, handshake.controllerId), deviceOf(job, handshake.deviceId)]
  const roleOf = (each: Device | undefined) => each && kindFacts(each.kind, job.kinds).role
  return {
    tags: { controller: controller?.tag ?? 'Controller', device: device?.tag ?? 'Device' },
    terms: terms ?? handshakeTermsOf(job, handshake),
    exchange: handshake.exchange,
    roles: { controller: roleOf(controller), device: roleOf(device) },
    controllerAddress: controller?.ports[0]?.address ?? undefined,
    carrier: line && reachedAt(job, device) === undefined ? 'line' : 'ip',
    line: line && termLineOf(job, handshake, line),
    passedOn: device !== undefined && device.ports.length === 0 && device.behindId !== null,
    limits: device && kindFacts(device.kind, job.kinds).describedBy,
    known: knownTermsOf(job, controller, device, line),
    sample: handshake.points[0]?.reference?.value,
  }
}

function termLineOf(job: Job, handshake: Handshake, line: Line): TermLine {
  return {
    name: line.name,
    isSerial: isSerial(line),
    family: line.family,
    stations: stationsOn(job, line),
    others: (id) =>
      lineMates(job, handshake).flatMap((mate) =>
        ENDS.flatMap((end) => {
          const text =
            id === 'node' && end === 'device'
              ? nodeText(job, mate)
              : mate.terms.find((term) => term.termId === id && term.end === end)?.text
          const device = deviceOf(job, end === 'controller' ? mate.controllerId : mate.deviceId)
          return text !== undefined && text.trim() !== '' && device ? [{ tag: device.tag, text: text.trim() }] : []
        }),
      ),
  }
}
const ENDS = ['controller', 'device'] as const

/** The node of the device end, as its family writes it. */
function nodeText(job: Job, handshake: Handshake): string | undefined {
  const line = lineOf(job, handshake)
  const node = deviceOf(job, handshake.deviceId)?.nodes.find(({ lineId }) => lineId === line?.id)?.node
  return line && node != null ? formatNode(node as BusNode, nodeFamily(line.family)) : undefined
}

function maskText(job: Job, port: Port | undefined): string | undefined {
  if (!port) return undefined
  if (port.prefix !== null) return formatMask(prefixLength(port.prefix))
  const network = job.networks.find((each) => each.id === port.networkId)
  return network ? maskOf(network) : undefined
}

/** Masks by network, read once for each row: every handshake of a job asks for one at both ends. */
const masks = new WeakMap<Network, string | undefined>()

function maskOf(network: Network): string | undefined {
  if (!masks.has(network)) {
    const subnet = parseSubnet(network.cidr)
    masks.set(network, subnet.ok ? formatMask(subnet.value.prefix) : undefined)
  }
  return masks.get(network)
}
