import type { Change } from '../changes'
import { kindFacts, type DeviceKindFacts, type TypicalPoint } from '../kind'
import { hasProven } from './hasProven'
import { termDefinition, type Clasp, type ClaspRow, type TermId } from '../terms'
import { claspFor } from './standing'
import { deviceOf } from './deviceOf'
import { isFromLineUp } from './handshakeTerms'
import { mirrorsOf } from './mirrors'
import type { Device, Handshake, Job } from './model'
import { settingOf } from './settings'
import { individualTerms } from './termMatrix'

/** What no profile carries: it tells one device from its twins, or lies on its label. */
const STAYS_OWN: readonly TermId[] = [
  ...individualTerms,
  'mask',
  'port',
  'node',
  'slot',
  'name',
  'serial-number',
  'linked-id',
  'module-name',
]

/** Terms that a device has at its own end and that others of its kind can have too. */
function sharedTermsOf(
  job: Job,
  device: Device,
): readonly { readonly handshake: Handshake; readonly id: TermId; readonly text: string }[] {
  return job.handshakes
    .filter(({ deviceId }) => deviceId === device.id)
    .flatMap((handshake) =>
      claspFor(job, handshake).rows.flatMap(({ id, ends }) => {
        const { device: reading } = ends
        const own =
          reading.state === 'read' && !reading.derived && !STAYS_OWN.includes(id) && !isFromLineUp(id, 'device')
        return own ? [{ handshake, id, text: reading.entry.text.trim() }] : []
      }),
    )
}

/**
 * A device's settings as a kind of its own: how it is set and how long it takes, and the terms at its end. Address,
 * unit, node, name and serial number stay the device's.
 */
export function profileOf(job: Job, device: Device, id: string, name: string): DeviceKindFacts {
  const { way, effective, startUpSeconds, handsOnSeconds } = settingOf(job, device)
  const kind = kindFacts(device.kind, job.kinds)
  const points = job.handshakes
    .filter(({ deviceId }) => deviceId === device.id)
    .flatMap((handshake) => handshake.points)
    .slice(0, 200)
    .map(({ quantity, unit, decimals, source }): TypicalPoint => ({ quantity, unit, decimals, place: source }))
  const mirrors = Object.fromEntries(
    job.handshakes
      .filter(({ deviceId }) => deviceId === device.id)
      .flatMap((handshake) => mirrorsOf(job, handshake).map(({ termId, text }) => [termId, text])),
  )
  const terms = Object.fromEntries(sharedTermsOf(job, device).map(({ id: term, text }) => [term, text]))
  return {
    ...kind,
    id,
    name,
    setting: way,
    effective,
    startUpSeconds,
    handsOnSeconds,
    terms: { ...kind.terms, ...terms },
    ...(points.length > 0 && { points }),
    ...(Object.keys(mirrors).length > 0 && { mirrors }),
  }
}

/** One term in which a device differs from its profile. */
export interface Deviation {
  readonly handshake: Handshake
  readonly id: TermId
  readonly name: string
  /** Blank where nobody has said it. */
  readonly is: string
  readonly profile: string
  /** What is proven rests on it: set, it falls back. */
  readonly isProven: boolean
}

/** Where the handshakes of a device differ from what a kind says of its own end; the kind of the device where none is named. */
export function deviationsFrom(job: Job, device: Device, kindId: string = device.kind): readonly Deviation[] {
  const { terms = {} } = kindFacts(kindId, job.kinds)
  return job.handshakes
    .filter(({ deviceId }) => deviceId === device.id)
    .flatMap((handshake) =>
      claspFor(job, handshake).rows.flatMap(({ id, ends }): readonly Deviation[] => {
        const profile = terms[id]
        const reading = ends.device
        if (profile === undefined || isFromLineUp(id, 'device')) return []
        const said =
          reading.state === 'blank' || (reading.state === 'read' && reading.derived) ? '' : reading.entry.text.trim()
        if (said === '' ? reading.state !== 'blank' : means(id, said) === means(id, profile)) return []
        const isProven = hasProven(job, handshake, `${id}.device`)
        return [{ handshake, id, name: termDefinition(id).name, is: said, profile, isProven }]
      }),
    )
}

/** What a text means, as it is shown; the text itself where it cannot be read. */
function means(id: TermId, text: string): string {
  const entry = { text, origin: '' }
  const read = termDefinition(id).parse(entry, { terms: {}, end: 'device' })
  return read.ok ? termDefinition(id).format(read.value, entry, { terms: {}, end: 'device' }) : text
}

/** Rows whose plan at the device is what its kind has out of the box: nobody has to enter them. */
export function rowsAtDefault(job: Job, handshake: Handshake, clasp: Pick<Clasp, 'rows'>): readonly ClaspRow[] {
  const device = deviceOf(job, handshake.deviceId)
  const { terms = {} } = kindFacts(device?.kind ?? '', job.kinds)
  return clasp.rows.filter(({ id, ends }) => {
    const [usual, reading] = [terms[id], ends.device]
    return (
      usual !== undefined &&
      reading.state === 'read' &&
      !reading.derived &&
      means(id, reading.entry.text) === means(id, usual)
    )
  })
}

/** The changes that put a kind on devices, with their terms at their own end as the kind says. */
export function putKindOn(
  job: Job,
  kind: Pick<DeviceKindFacts, 'id' | 'name'>,
  devices: readonly Device[],
  newId: () => string,
  takes: (deviation: Deviation) => boolean = () => true,
): readonly Change[] {
  return devices.flatMap((device): readonly Change[] => {
    const becomes: readonly Change[] =
      device.kind === kind.id
        ? []
        : [{ op: 'set', table: 'device', id: device.id, version: device.version, fields: { kind: kind.id } }]
    const terms = deviationsFrom(job, device, kind.id)
      .filter(takes)
      .map(({ handshake, id, profile }): Change => {
        const row = handshake.terms.find((term) => term.termId === id && term.end === 'device')
        const next = { text: profile, notation: null, origin: `profile ${kind.name}` }
        return row
          ? { op: 'set', table: 'term', id: row.id, version: row.version, fields: next }
          : {
              op: 'add',
              table: 'term',
              id: newId(),
              fields: { termId: id, end: 'device', handshakeId: handshake.id, ...next },
            }
      })
    return [...becomes, ...terms]
  })
}
