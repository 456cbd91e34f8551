import { formatMask, parseSubnet, prefixLength } from '../address'
import type { End, HandshakeTerms, TermContext, TermEntry, TermId } from '../terms'
import { deviceOf } from './deviceOf'
import type { Device, Handshake, Job, Network, Port } from './model'
import { serialLineOf } from './serialLine'

/** Terms that the line-up holds, by end: they are edited there, in the device's own row. */
export const fromLineUp: Readonly<Partial<Record<TermId, readonly End[]>>> = {
  address: ['device'],
  mask: ['controller', 'device'],
  port: ['device'],
  'unit-id': ['device'],
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
    put(term.termId, term.end, { text: term.text, notation: term.notation ?? undefined, origin: term.origin })
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
  planned('unit-id', 'device', device?.unitId == null ? undefined : String(device.unitId))
  return terms
}

/** What the agreement of a handshake's terms is judged with. */
export function termContextOf(job: Job, handshake: Handshake): TermContext {
  const line = serialLineOf(job, handshake)
  return {
    tags: {
      controller: deviceOf(job, handshake.controllerId)?.tag ?? 'Controller',
      device: deviceOf(job, handshake.deviceId)?.tag ?? 'Device',
    },
    terms: handshakeTermsOf(job, handshake),
    controllerAddress: deviceOf(job, handshake.controllerId)?.ports[0]?.address ?? undefined,
    line: line && { name: line.name },
    sample: handshake.points[0]?.reference?.value,
  }
}

/** The port through which a device is asked: its own, or that of the gateway it hangs behind. */
export function reachedAt(job: Job, device: Device | undefined): Port | undefined {
  const seen = new Set<string>()
  let current = device
  while (current && !seen.has(current.id)) {
    seen.add(current.id)
    if (current.ports[0]) return current.ports[0]
    current = current.behindId === null ? undefined : deviceOf(job, current.behindId)
  }
  return undefined
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
