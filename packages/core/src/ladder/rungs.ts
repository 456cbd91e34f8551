import { termCatalogue, type TermGroup } from '../terms'

/** The rungs of a handshake's ladder, in working order. */
export type Rung =
  'safe' | 'powered' | 'reached' | 'agreed' | 'reading' | 'writing' | 'survives' | 'secured' | 'handed-over'

export interface RungFacts {
  readonly id: Rung
  readonly name: string
  /** What proves it, in one line. */
  readonly proof: string
  /** Facts that the evidence rests on; when one changes afterwards, the evidence no longer applies. */
  readonly restsOn: readonly string[]
  /** What is looked at: the device, whoever asks it; the handshake; or every one of its points. */
  readonly about: 'device' | 'handshake' | 'point'
}

const CONNECTION = ['address.device', 'port.device', 'unit-id.device']
/** A number counted another way is another register. */
const NOTATIONS = ['notation.controller', 'notation.device']
const termsOf = (groups: readonly TermGroup[]) => [
  ...termCatalogue
    .filter(({ group }) => groups.includes(group))
    .flatMap(({ id }) => [`${id}.controller`, `${id}.device`]),
  ...NOTATIONS,
]
const EVERY_TERM = termsOf(['reach', 'line', 'request', 'words', 'versions', 'names', 'charge'])
/** A value is read the same whatever the project is called, and whichever tool saved it. */
const WHAT_TRAVELS = termsOf(['reach', 'line', 'request', 'words'])

export const rungs: readonly RungFacts[] = [
  {
    id: 'safe',
    about: 'device',
    name: 'Safe',
    proof: 'Cautions read, isolation stated, what may move or lose power is named.',
    restsOn: [],
  },
  {
    id: 'powered',
    about: 'device',
    name: 'Powered',
    proof: 'The expected lamps or display were seen.',
    restsOn: [],
  },
  {
    id: 'reached',
    about: 'device',
    name: 'Reached',
    proof: 'The device answered from this laptop at its planned address.',
    restsOn: CONNECTION,
  },
  {
    id: 'agreed',
    about: 'handshake',
    name: 'Agreed',
    proof: 'Every term is equal or fits at both ends, and is in force.',
    restsOn: EVERY_TERM,
  },
  {
    id: 'reading',
    about: 'point',
    name: 'Reading',
    proof: 'The value arrives in the controller and is right, against a reference and a tolerance.',
    restsOn: [...WHAT_TRAVELS, 'point', 'served', 'source'],
  },
  {
    id: 'writing',
    about: 'handshake',
    name: 'Writing',
    proof: 'Outputs reach the device, were read back, and every forced value was released.',
    restsOn: [...WHAT_TRAVELS, ...termsOf(['charge'])],
  },
  {
    id: 'survives',
    about: 'device',
    name: 'Survives',
    proof: 'Unplugged, restarted: it faults visibly, fails safe and comes back by itself.',
    restsOn: CONNECTION,
  },
  {
    id: 'secured',
    about: 'device',
    name: 'Secured',
    proof: 'Default passwords changed, unused services off, clock set, firmware recorded.',
    restsOn: [],
  },
  {
    id: 'handed-over',
    about: 'handshake',
    name: 'Handed over',
    proof: 'Backups, labels, as-left record, open points, sign-off.',
    restsOn: [],
  },
]

/** @throws RangeError for an id that is no rung */
export function rungFacts(id: Rung): RungFacts {
  const found = rungs.find((rung) => rung.id === id)
  if (!found) throw new RangeError(`No such rung: ${id}`)
  return found
}
