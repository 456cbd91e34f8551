import { deviceOf, type Handshake, type Job, type TablesTaken } from '../job'
import { csvText } from '../table'
import { gatewayRows } from './gatewayMemory'
import { placesOf } from './place'
import { commandRows, declarations, mapRows, markOf } from './tablesOut'
import type { DevicePacking } from './wanted'

/** A table for one of the ends, or for what lies between them. */
export interface TableFile {
  readonly id: keyof TablesTaken
  readonly name: string
  /** For whom it is. */
  readonly say: string
  /** What it says, or why it cannot be made yet. */
  readonly content: { readonly text: string; readonly mark: string } | { readonly missing: string }
  readonly fileName: string
  readonly mediaType: 'text/csv' | 'text/plain'
}

type Rows = readonly (readonly (string | number)[])[]
const asCsv = (rows: Rows) => ({ text: csvText(rows), mark: markOf(rows) })

/** The tables of a handshake as its points stand now. */
export function tableFiles(job: Job, handshake: Handshake, { packing }: DevicePacking): readonly TableFile[] {
  const device = deviceOf(job, handshake.deviceId)
  const controller = deviceOf(job, handshake.controllerId)
  const unit = String(device?.unitId ?? '')
  const asked = deviceTag(device?.tag)
  const places = placesOf(job, handshake)
  const types = new Map(
    handshake.points.map((point, k) => {
      const place = places[k]
      return [point.id, place && !('missing' in place) ? place.plan.format.type : undefined] as const
    }),
  )
  const tags = declarations(handshake.points, ({ id }) => types.get(id))
  const gateway = gatewayRows(job, handshake, packing.requests, unit)
  return [
    {
      id: 'commands',
      name: 'Command table',
      say: `for ${deviceTag(controller?.tag)}, which asks`,
      content: asCsv(commandRows(packing.requests, unit, controller?.toolAddsOne ? 1 : 0)),
      fileName: `${asked}-commands.csv`,
      mediaType: 'text/csv',
    },
    {
      id: 'gateway',
      name: 'Gateway table',
      say: 'for a gateway or module between: what it asks and sends, and where each lies in its memory',
      content: 'missing' in gateway ? gateway : asCsv(gateway.rows),
      fileName: `${asked}-gateway.csv`,
      mediaType: 'text/csv',
    },
    {
      id: 'map',
      name: 'Register map',
      say: `of ${asked}; it can be taken in again`,
      content: asCsv(mapRows(job, handshake)),
      fileName: `${asked}-map.csv`,
      mediaType: 'text/csv',
    },
    {
      id: 'tags',
      name: 'Tag list',
      say: `declarations for ${deviceTag(controller?.tag)}`,
      content: { text: tags, mark: markOf([[tags]]) },
      fileName: `${asked}-tags.txt`,
      mediaType: 'text/plain',
    },
  ]
}

const deviceTag = (tag: string | undefined) => tag ?? 'device'
