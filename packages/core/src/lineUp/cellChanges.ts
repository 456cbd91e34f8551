import { blankDevice, blankPort, type Device, type Job } from '../job'
import { kindFacts } from '../kind'
import type { Change } from '../changes'
import type { CellEdit } from './column'

/** Several cells of one device as one edit. */
export function mergedEdits(edits: readonly CellEdit[]): CellEdit {
  return edits.reduce<CellEdit>(
    (sum, edit) => ({
      ...(sum.device || edit.device ? { device: { ...sum.device, ...edit.device } } : {}),
      ...(sum.port || edit.port ? { port: { ...sum.port, ...edit.port } } : {}),
      ...(edit.nodes ? { nodes: edit.nodes } : sum.nodes ? { nodes: sum.nodes } : {}),
    }),
    {},
  )
}

/**
 * What cells change of a device that is there already; empty when they say what stands there. A port is added when the
 * first of its fields is filled in.
 * @param newId gives an id for each row that is added
 */
export function cellChanges(job: Job, device: Device, edit: CellEdit, newId: () => string): readonly Change[] {
  const changes: Change[] = []
  const fields = changed(device, edit.device ?? {})
  if (Object.keys(fields).length > 0)
    changes.push({ op: 'set', table: 'device', id: device.id, version: device.version, fields })
  const [port] = device.ports
  if (edit.port && port) {
    const portFields = changed(port, edit.port)
    if (Object.keys(portFields).length > 0)
      changes.push({ op: 'set', table: 'port', id: port.id, version: port.version, fields: portFields })
  } else if (edit.port && says(edit.port)) {
    changes.push(addPort(device.id, edit.port, newId()))
  }
  const isMaster = comesAsMaster(job, edit.device?.kind ?? device.kind)
  return edit.nodes ? [...changes, ...nodeChanges(device, edit.nodes, isMaster, newId)] : changes
}

/** A new device from its cells. */
export function newDeviceChanges(
  job: Job,
  edit: CellEdit & { readonly device: { readonly tag: string; readonly kind: string } },
  position: number,
  withPort: boolean,
  newId: () => string,
): readonly Change[] {
  const id = newId()
  return [
    { op: 'add', table: 'device', id, fields: { ...blankDevice, position, ...edit.device } },
    ...(withPort ? [addPort(id, edit.port ?? {}, newId())] : []),
    ...(edit.nodes ?? []).map((node): Change => addNode(id, node, comesAsMaster(job, edit.device.kind), newId())),
  ]
}

const addPort = (deviceId: string, fields: NonNullable<CellEdit['port']>, id: string): Change => ({
  op: 'add',
  table: 'port',
  id,
  fields: { ...blankPort, ...fields, deviceId },
})
const addNode = (
  deviceId: string,
  node: { readonly lineId: string; readonly node: number | null },
  isMaster: boolean,
  id: string,
): Change => ({
  op: 'add',
  table: 'node',
  id,
  fields: { name: '', isMaster, ...node, deviceId },
})

/** Whether a kind asks the others on its line. */
export const comesAsMaster = (job: Job, kind: string): boolean =>
  kindFacts(kind, job.kinds).defaultNode?.isMaster ?? false

/** Nodes one by one in their order: changed where they differ, added, or taken away. */
function nodeChanges(
  device: Device,
  wanted: NonNullable<CellEdit['nodes']>,
  isMaster: boolean,
  newId: () => string,
): readonly Change[] {
  const changes: Change[] = []
  for (let k = 0; k < Math.max(wanted.length, device.nodes.length); k += 1) {
    const [now, then] = [device.nodes[k], wanted[k]]
    if (now && then) {
      const fields = changed(now, then)
      if (Object.keys(fields).length > 0)
        changes.push({ op: 'set', table: 'node', id: now.id, version: now.version, fields })
    } else if (now) changes.push({ op: 'remove', table: 'node', id: now.id, version: now.version })
    else if (then) changes.push(addNode(device.id, then, isMaster, newId()))
  }
  return changes
}

function changed(row: object, fields: object): Record<string, unknown> {
  const now = row as Record<string, unknown>
  return Object.fromEntries(
    Object.entries(fields).filter(([name, value]) => JSON.stringify(now[name]) !== JSON.stringify(value)),
  )
}

/** Whether port fields say more than nothing. */
const says = (port: NonNullable<CellEdit['port']>) =>
  Object.entries(port).some(([name, value]) => value !== null && name !== 'tcpPort' && name !== 'networkId')

/** The position after the last device. */
export const nextPosition = (job: Job): number =>
  job.devices.reduce((most, device) => Math.max(most, device.position), 0) + 1
