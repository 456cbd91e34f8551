import { kindFacts } from '../kind'
import { blankPath, blankPoint, deviceOf, handshakeTermsOf, type Job } from '../job'
import type { Exchange, TermId } from '../terms'
import type { Change } from './change'

/** The two ends of a handshake, by the ids of their devices. */
export interface Ends {
  readonly controllerId: string
  readonly deviceId: string
}

/** What a controller must be told of a device, and the line-up knows already. */
const KNOWN: readonly TermId[] = ['address', 'port', 'unit-id', 'node']

/**
 * A new handshake: the terms that the line-up knows stand at the controller's end too, and it has one point, so that
 * there is something to prove. What stands there afterwards is what was planned; that the program says the same is for
 * a person to see.
 * @param newId makes the id of each row
 * @param exchange how the two ends speak
 */
export function beginHandshakeChanges(
  job: Job,
  ends: Ends,
  newId: () => string,
  exchange: Exchange = 'modbus',
): { readonly id: string; readonly name: string; readonly changes: readonly Change[] } {
  const id = newId()
  const tag = (deviceId: string) => deviceOf(job, deviceId)?.tag ?? ''
  const name = `${tag(ends.controllerId)} to ${tag(ends.deviceId)}`
  const position = job.handshakes.reduce((most, each) => Math.max(most, each.position), 0) + 1
  const blank = {
    id,
    position,
    name,
    ...ends,
    version: 1,
    terms: [],
    points: [],
    decisions: [],
    exchange,
    unreadable: '',
    alone: '',
    evenOnly: false,
    lastAddress: null,
    mirrors: [],
    ...blankPath,
  }
  const known = handshakeTermsOf(job, blank)
  const terms = KNOWN.flatMap((termId): readonly Change[] => {
    const text = known[termId]?.device?.text
    if (text === undefined) return []
    const fields = { termId, end: 'controller', text, notation: null, origin: 'as planned', handshakeId: id }
    return [{ op: 'add', table: 'term', id: newId(), fields }]
  })
  return {
    id,
    name,
    changes: [
      { op: 'add', table: 'handshake', id, fields: { position, name, exchange, ...ends } },
      ...pointsOf(job, ends.deviceId).map((fields): Change => ({
        op: 'add',
        table: 'point',
        id: newId(),
        fields: { ...fields, handshakeId: id },
      })),
      ...terms,
    ],
  }
}

/** What is usually read of the kind; without that one value, so that there is something to prove. */
function pointsOf(job: Job, deviceId: string) {
  const device = deviceOf(job, deviceId)
  const blank = blankPoint(device?.tag ?? '')
  const { points = [] } = kindFacts(device?.kind ?? '', job.kinds)
  if (points.length === 0) return [blank]
  const stem = blank.tag.replace(/_Value$/, '')
  return points.map(({ quantity, unit, decimals, place }, position) => ({
    ...blank,
    position,
    tag: `${stem}_${quantity.replace(/[^A-Za-z0-9]+/g, '_').replace(/^_|_$/g, '') || position + 1}`.slice(0, 40),
    quantity,
    unit,
    decimals,
    source: place,
  }))
}
