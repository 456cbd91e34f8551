import { kindFacts } from '../kind'
import { readLineSettings, silentTryMs, usualTiming } from '../serial'
import type { End, HandshakeTerms, TermEntry, TermId } from '../terms'
import type { Device, Job, Line, Port } from './model'
import { imageOfRow, pluggedInto } from './plugged'
import { reachedAt } from './reachedAt'
import { isSerial } from './serialLine'

const LINE_UP = 'Line-up'

/**
 * What the line-up and the kinds know of terms without anybody having said it: electrical kind of the line, firmware,
 * order code, name, and what a kind has out of the box. It counts until somebody says it.
 */
export function knownTermsOf(
  job: Job,
  controller: Device | undefined,
  device: Device | undefined,
  line: Line | undefined,
): HandshakeTerms {
  const known: Partial<Record<TermId, Partial<Record<End, TermEntry>>>> = {}
  const put = (id: TermId, end: End, text: string | null | undefined, origin: string) => {
    if (text) known[id] = { ...known[id], [end]: { text, origin } }
  }
  const kind = device && kindFacts(device.kind, job.kinds)
  const isBehindGateway =
    line !== undefined &&
    isSerial(line) &&
    device !== undefined &&
    device.ports.length === 0 &&
    device.behindId !== null
  for (const [id, text] of Object.entries(kind?.terms ?? {})) {
    // How long a device takes says nothing of how long its gateway tries.
    if (isBehindGateway && id === 'timeout') continue
    put(id as TermId, 'device', text, `kind ${kind?.name ?? ''}`)
  }
  if (isBehindGateway)
    for (const [id, text] of Object.entries(waitOfGateway(line)))
      put(
        id as TermId,
        'device',
        text,
        `line ${line.name}${line.gatewayMs === null ? ', the gateway’s own time not counted' : ''}`,
      )
  if (device) {
    const modules = pluggedInto(job, device)
    const image = imageOfRow(modules)
    const origin = `${modules.length} module${modules.length === 1 ? '' : 's'} behind it`
    if (image && image.inputBytes > 0) put('input-size', 'device', `${image.inputBytes} bytes`, origin)
    if (image && image.outputBytes > 0) put('output-size', 'device', `${image.outputBytes} bytes`, origin)
  }
  // A project is made with the file; the device itself says its own revision.
  put('description-file', 'controller', kind?.describedBy?.revision, `description file of ${kind?.name ?? ''}`)
  put('description-file', 'device', device?.firmwareFound, LINE_UP)
  put('gateway', 'controller', gatewayOf(job, controller?.ports[0]), LINE_UP)
  put('gateway', 'device', gatewayOf(job, reachedAt(job, device)), LINE_UP)
  if (line && isSerial(line)) put('electrical', 'controller', line.medium, `${LINE_UP}, ${line.name}`)
  if (!device) return known
  if (device.firmwareRelation !== 'any' && device.firmwareNeeded !== '')
    put('firmware', 'controller', `${relationSigns[device.firmwareRelation]} ${device.firmwareNeeded}`, LINE_UP)
  put('firmware', 'device', device.firmwareFound, LINE_UP)
  put('order-code', 'controller', device.orderCode, LINE_UP)
  put('order-code', 'device', device.orderCodeFound, LINE_UP)
  put('serial-number', 'device', device.serialNumber, LINE_UP)
  put('name', 'device', device.hostName, LINE_UP)
  // Of several places the one that differs is the one to be looked at.
  const place = device.namePlaces.find(({ text }) => text !== device.hostName) ?? device.namePlaces[0]
  put('name', 'controller', place?.text, place?.where ?? '')
  return known
}

/** The gateway of a port: its own word, else that of its network. */
const gatewayOf = (job: Job, port: Port | undefined): string | null | undefined =>
  port?.gateway ?? job.networks.find(({ id }) => id === port?.networkId)?.gateway

/** Bytes of every read request on a serial line. @source Modbus over Serial Line V1.02, 2.5.1; function codes 1 to 4 */
const READ_REQUEST = { request: 8, answer: 0 }

/**
 * What the gateway of a line makes the controller wait at most before it says that nobody answered: all its tries, each
 * with the question on the wire, the timeout behind it, and its own time where somebody says that. Without the timeout,
 * the tries or the settings of the line it is not known.
 */
function waitOfGateway(line: Line): Readonly<Partial<Record<TermId, string>>> {
  const { timeoutMs, retries, gatewayMs } = line
  const settings = readLineSettings(line.settings)
  if (retries === null) return {}
  if (timeoutMs === null || !settings.ok) return { retries: String(retries) }
  const timing = { ...usualTiming, settings: settings.value, timeoutMs, retries, gatewayMs: gatewayMs ?? 0 }
  const one = silentTryMs(timing, { name: '', bytes: READ_REQUEST, deviceMs: 0, intervalMs: 0 })
  return { timeout: `${Math.ceil((1 + retries) * one)} ms`, retries: String(retries) }
}

const relationSigns = { equal: '=', 'at-least': '>=', 'not-above': '<=' } as const
