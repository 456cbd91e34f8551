import { shippedKinds } from './shipped'
import type { DeviceKindFacts } from './kind'

/** A kind that a job has added for itself. */
export interface OwnKind {
  readonly id: string
  readonly version: number
  readonly facts: DeviceKindFacts
}

/** All kinds that a job can use: those that ship, then its own. */
export function kindsOf(own: readonly OwnKind[]): readonly DeviceKindFacts[] {
  return own.length === 0 ? shippedKinds : [...shippedKinds, ...own.map((each) => each.facts)]
}

const byId = new Map(shippedKinds.map((kind) => [kind.id, kind]))

/** What is known of a kind; a kind that nobody knows any more keeps its id as its name and promises nothing. */
export function kindFacts(id: string, own: readonly OwnKind[]): DeviceKindFacts {
  return own.find((each) => each.facts.id === id)?.facts ?? byId.get(id) ?? unknownKind(id)
}

/** Whether a kind is known to a job. */
export function isKnownKind(id: string, own: readonly OwnKind[]): boolean {
  return byId.has(id) || own.some((each) => each.facts.id === id)
}

const unknownKind = (id: string): DeviceKindFacts => ({
  id,
  name: id,
  role: 'field',
  block: [1, 254],
  notApplying: [],
  defaultAddress: { kind: 'none' },
  defaultNode: null,
  setting: 'web-page',
  effective: 'at-once',
  startUpSeconds: 30,
  handsOnSeconds: 120,
  lamps: [],
  sockets: [],
  limits: [],
  beforePower: [],
})
