import { formatNode, nodeFamily, type BusNode } from '../bus'
import type { Device, Job } from '../job'
import { portOf } from './present'
import { cellsOf, isFine, nameKey } from './picture'
import { latestFact, type WalkRecord } from './record'

/** The setting under which a list is kept of what a controller sees. */
export const LISTED_DEVICES = 'listed-devices'

/** The setting under which the list of a search is kept: each line is searched by itself. */
export const listedNodesOf = (device: Device | undefined): string =>
  `listed-nodes ${device?.nodes[0]?.lineId ?? ''}`.trim()

/** One line of a list held against the plan, or a planned device that is not in it. */
export interface ListedRow {
  /** Tag of the planned device; blank where the list has one more. */
  readonly tag: string
  /** Node or address as planned; blank where none is. */
  readonly planned: string
  /** The line as it stands in the list; blank where there is none. */
  readonly listed: string
  readonly state: 'agrees' | 'differs' | 'more'
  /** What is to be said of it; blank where it agrees. */
  readonly say: string
}

/** Devices that a controller talks to: by a handshake, behind it, or on a line on which it asks; its own rack left out. */
export function servedBy(job: Job, controller: Device): readonly Device[] {
  const asked = new Set(
    job.handshakes.filter((each) => each.controllerId === controller.id).map((each) => each.deviceId),
  )
  const lines = new Set(controller.nodes.filter(({ isMaster }) => isMaster).map(({ lineId }) => lineId))
  const racks = new Set(job.lines.filter(({ medium }) => medium === 'backplane').map(({ id }) => id))
  const isThere = (device: Device) => {
    const own = device.nodes.map(({ lineId }) => lineId)
    return own.some((id) => lines.has(id) && !racks.has(id))
  }
  const inRack = (device: Device) => device.nodes.some(({ lineId }) => racks.has(lineId))
  return job.devices.filter(
    (device) =>
      device.id !== controller.id &&
      (asked.has(device.id) || isThere(device) || (device.behindId === controller.id && !inRack(device))),
  )
}

/** What a device is looked for by in a list of a bus: its first node on a line that is no rack. */
function nodeOf(job: Job, device: Device) {
  const node = device.nodes.find(({ lineId }) => job.lines.find(({ id }) => id === lineId)?.medium !== 'backplane')
  const line = job.lines.find(({ id }) => id === node?.lineId)
  return node?.node == null || !line
    ? undefined
    : { number: node.node as number, text: formatNode(node.node as BusNode, nodeFamily(line.family)) }
}

/** One line of a list of nodes: the number that stands in a cell by itself, and the other cells. */
function readNodeLine(line: string): { readonly node: string; readonly rest: readonly string[] } | undefined {
  const cells = cellsOf(line)
  const at = cells.findIndex((cell) => /^\d{1,3}$/.test(cell))
  return at < 0 ? undefined : { node: cells[at] ?? '', rest: cells.filter((_, place) => place !== at) }
}

/**
 * Nodes that a search on a bus listed, held against those that are planned: a number in each line, the name beside it
 * where the list has one. A line without a number is passed over, as a head line is.
 */
export function nodesAgainst(job: Job, devices: readonly Device[], text: string): readonly ListedRow[] {
  const lines = text.split(/\r?\n/).flatMap((line) => readNodeLine(line) ?? [])
  const planned = devices.map((device) => ({ device, node: nodeOf(job, device) }))
  const isOf = (line: (typeof lines)[number], node: ReturnType<typeof nodeOf>) =>
    node !== undefined && (line.node === node.text || Number(line.node) === Number(node.text))
  const rows = planned.map(({ device, node }): ListedRow => {
    const found = lines.filter((line) => isOf(line, node))
    const [first] = found
    const row = {
      tag: device.tag,
      planned: node?.text ?? '',
      listed: first ? [first.node, ...first.rest].join(' ') : '',
    }
    if (!node) return { ...row, state: 'differs', say: `${device.tag}: no node is planned.` }
    if (!first) return { ...row, state: 'differs', say: `Not listed: ${device.tag}, node ${node.text}.` }
    if (found.length > 1) return { ...row, state: 'differs', say: `Node ${node.text} is listed ${found.length} times.` }
    const other = devices.find(
      (each) => each !== device && first.rest.some((cell) => nameKey(cell) === nameKey(each.tag)),
    )
    return other
      ? { ...row, state: 'differs', say: `Node ${node.text} is listed as ${other.tag}; planned is ${device.tag}.` }
      : { ...row, state: 'agrees', say: '' }
  })
  const more = lines.filter((line) => !planned.some(({ node }) => isOf(line, node)))
  return [
    ...rows,
    ...more.map(({ node, rest }): ListedRow => ({
      tag: '',
      planned: '',
      listed: [node, ...rest].join(' '),
      state: 'more',
      say: `Node ${node} is listed and not planned.`,
    })),
  ]
}

/**
 * What a controller lists, held against the devices it is to talk to: by tag, host name or address, spelling aside.
 * What its status says of a fault there counts as seen, at fault.
 */
export function devicesAgainst(devices: readonly Device[], text: string): readonly ListedRow[] {
  const lines = text
    .split(/\r?\n/)
    .map(cellsOf)
    .filter((cells) => cells.length > 0)
  const known = devices.map((device) => ({ device, names: namesOf(device) }))
  const isOf = (cells: readonly string[], names: readonly string[]) =>
    cells.some((cell) => names.includes(nameKey(cell)))
  const rows = known.map(({ device, names }): ListedRow => {
    const found = lines.find((cells) => isOf(cells, names))
    const row = { tag: device.tag, planned: portOf(device)?.address ?? '', listed: found?.join(' ') ?? '' }
    if (!found) return { ...row, state: 'differs', say: `Not listed: ${device.tag}.` }
    // Its status stands last, after what it is called.
    const status = found.filter((cell) => !names.includes(nameKey(cell))).at(-1)
    return status === undefined || isFine(status)
      ? { ...row, state: 'agrees', say: '' }
      : { ...row, state: 'differs', say: `${device.tag} is at fault there: ${status}.` }
  })
  // Words alone in the first line are its head.
  const isHead = (cells: readonly string[]) => cells === lines[0] && !cells.some((cell) => /\d/.test(cell))
  const more = lines.filter((cells) => !known.some(({ names }) => isOf(cells, names)) && !isHead(cells))
  return [
    ...rows,
    ...more.map((cells): ListedRow => ({
      tag: '',
      planned: '',
      listed: cells.join(' '),
      state: 'more',
      say: `Listed and not planned: ${cells[0] ?? ''}.`,
    })),
  ]
}

/** What a device may be called in a list. */
const namesOf = (device: Device): readonly string[] =>
  [device.tag, device.hostName, portOf(device)?.address ?? ''].filter((name) => name !== '').map(nameKey)

/**
 * The list of a device's screen that counts now, and whom it is held against.
 * @param since a list from before this moment (ms since 1970) says nothing of now
 */
export function listKept(record: WalkRecord, ofId: string, setting: string, since = 0): string | undefined {
  const fact = latestFact(record, ofId, setting, 'found')
  return fact && fact.at >= since ? fact.text : undefined
}
