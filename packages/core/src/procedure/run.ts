import type { LampMeaning, WayOfSetting } from '../kind'

/** What a step asks of the person at the panel. */
export type StepKind = 'caution' | 'prepare' | 'do' | 'turn' | 'set' | 'wait' | 'expect' | 'record' | 'check' | 'decide'

export const stepKinds: Readonly<Record<StepKind, string>> = {
  caution: 'Caution',
  prepare: 'Prepare',
  do: 'Do',
  turn: 'In turn',
  set: 'Set',
  wait: 'Wait',
  expect: 'Expect',
  record: 'Write down',
  check: 'Check',
  decide: 'Decide',
}

/** What turns a step of each kind green, and what that says. What is settled by a reason is never green. */
export const settledBy: Readonly<Record<StepKind, string>> = {
  caution: 'somebody read it: never together with other steps of another kind, and never by time',
  prepare: 'somebody did it; several may be ticked at once, nothing is seen or measured by it',
  do: 'somebody did it; several that protect nobody may be ticked at once',
  turn: 'somebody did it for each device in turn',
  set: 'somebody typed it in: entered, which is not in force',
  wait: 'it was seen gone and back, or silent, as the wait asks; a wait that looks for nothing ends by its time. Where nobody could look, the time parks it',
  expect: 'somebody saw the lamps or the display; never ticked together with other steps',
  record:
    'somebody wrote down what was read or measured; blank, or without a value where one is measured, it is refused',
  check: 'the program compared something, and it agreed: see below. It cannot be ticked',
  decide: 'somebody chose',
}

/** Where in the order of bring-up a step belongs. `last` is when everything else has been walked. */
export type Phase = 'before-power' | 'power' | 'set' | 'effective' | 'verify' | 'after' | 'last'

/** In the order in which they come. */
export const phases: readonly Phase[] = ['before-power', 'power', 'set', 'effective', 'verify', 'after', 'last']

/** What a step does to the world: each needs a caution before it. */
export type Act = 'powers' | 'writes' | 'wires'

/** What the order of a step protects. Such a step blocks those after it until it is done or overridden with a reason. */
export type Protects = 'people' | 'plant' | 'data'

/** Checks that the program makes itself: computed from the plan, or live. */
export type CheckId =
  | 'reached-planned'
  | 'reached-present'
  | 'gone-from-present'
  | 'laptop-in-subnet'
  | 'order-code'
  | 'rack-codes'
  | 'firmware'
  | 'names-equal'
  | 'mac-known'
  | 'identified'
  | 'units-behind'
  | 'row-answers'
  | 'text-arrives'
  | 'shows-planned'
  | 'relay-answers'
  | 'relay-firmware'
  | 'nodes-listed'
  | 'served-verified'
  | 'controller-sees'
  | 'backups'
  | 'before-picture'
  | 'returned'

export const checkIds: Readonly<Record<CheckId, string>> = {
  'reached-planned': 'answers at its planned address',
  'reached-present': 'answers at its present address',
  'gone-from-present': 'is gone from its old address',
  'laptop-in-subnet': 'the laptop is in its subnet',
  'order-code': 'the order code on the label is the one in the parts list',
  'rack-codes': 'each slot of its rack holds what the project has there',
  firmware: 'its firmware stands in the relation that is asked for',
  'names-equal': 'its name is the same in every place',
  'mac-known': 'its hardware address is in the line-up',
  identified: 'it is known which physical box it is',
  'units-behind': 'every unit behind it answers',
  'row-answers': 'every module of its row answers at its number, and no other',
  'text-arrives': 'text arrives from it',
  'shows-planned': 'its menu shows what is planned',
  'relay-answers': 'what it is reached through answers',
  'relay-firmware': 'the firmware of its controller is at least what it asks for',
  'nodes-listed': 'every node that is planned is listed, and no other',
  'served-verified': 'every device it talks to is verified',
  'controller-sees': 'it sees every device it talks to',
  'before-picture': 'what runs now is written down',
  backups: 'two backups are written down',
  returned: 'every device of the before-picture is back',
}

/** A reading that goes into the line-up or is kept as a fact. */
export type RecordId =
  | 'as-found'
  | 'mac'
  | 'serial-number'
  | 'order-code'
  | 'firmware'
  | 'node'
  | 'unit-id'
  | 'unit-code'
  | 'identity'
  | 'backup'
  | 'measured'
  | 'names'
  | 'text-on-tag'
  | 'note'

export const recordIds: Readonly<Record<RecordId, string>> = {
  'as-found': 'Address it was found at',
  mac: 'Hardware address, on its label',
  'serial-number': 'Serial number',
  'order-code': 'Order code on its label',
  firmware: 'Firmware',
  node: 'Node',
  'unit-id': 'Unit id',
  'unit-code': 'Code of the unit, on its rear label',
  identity: 'How it was identified',
  backup: 'Backup: file, place, version',
  measured: 'What was measured, and by what',
  names: 'Name in each place, for example: the device itself = plc-101; server = plc-101',
  'text-on-tag': 'What the tag says that is scanned',
  note: 'What the next person should know',
}

/** "I see something else": what it may be, the likeliest first, and the check that tells. */
interface Otherwise {
  readonly saw: string
  readonly likely: string
  readonly check: string
}

/** What a wait looks for: an answer, silence, or silence and then an answer where it was. */
export type Watch = 'back-at-present' | 'back-at-planned' | 'gone' | 'gone-and-back'

/** How things are once a step is done: power off or on, the address of its kind, or the planned one entered. */
export type Becomes = 'dead' | 'live' | 'at-factory' | 'entered'

/** What may hold of a device. */
export type OnlyWhere = 'factory-known' | 'factory-unknown' | 'addressed' | 'not-addressed' | 'named-elsewhere'

export interface RunStep {
  /** Small letters, digits and hyphens; unique in its run. Progress is kept by it. */
  readonly id: string
  readonly phase: Phase
  readonly kind: StepKind
  /** One or two sentences with {fields} that the job fills in. */
  readonly say: string
  readonly why?: string
  readonly protects?: Protects
  readonly acts?: readonly Act[]
  /** Of a caution: what it warns of. */
  readonly covers?: readonly Act[]
  /** What is typed, one entry after the other, as it is typed. */
  readonly type?: readonly string[]
  /** The task of the device's serial menu that does it; `type` is for a kind whose menu nobody described. */
  readonly menu?: string
  /** Lamps and displays to be seen; left out, an expect step shows those of the kind. */
  readonly lamps?: readonly LampMeaning[]
  /** What is normal meanwhile, though it looks wrong. */
  readonly normal?: readonly string[]
  readonly otherwise?: readonly Otherwise[]
  /** Seconds to wait; `start-up` takes the start-up time of the device. */
  readonly seconds?: number | 'start-up'
  /** Of a wait: what the program looks for by itself. */
  readonly watch?: Watch
  readonly check?: CheckId
  readonly record?: RecordId
  /** Something temporary that the step leaves behind, and how it is put back. */
  readonly leaves?: { readonly what: string; readonly putBack: string }
  /** Something temporary that is back by it: the beginning of what it was called when it was left. */
  readonly putsBack?: string
  /** Only where a decision of the same run, earlier in it, was taken so. */
  readonly onlyIf?: { readonly decided: string; readonly as: string }
  /** Only where this holds of the device: its kind has a factory address or not, it has an address of its own or not. */
  readonly onlyWhere?: OnlyWhere
  readonly becomes?: Becomes
  /** The laptop goes into the subnet of the device's present or planned address; `say` is the reason. */
  readonly laptop?: 'present' | 'planned'
  /** Of a decision: what can be chosen, and what follows from it. */
  readonly choices?: readonly { readonly say: string; readonly then: string }[]
}

/** Where a device stands that has no address of its own: a slot of a rack, a node of a bus, a unit on a serial line. */
export type RunPlace = 'rack' | 'bus' | 'line'

export const runPlaces: Readonly<Record<RunPlace, string>> = {
  rack: 'in a slot of a rack',
  bus: 'a node of a bus',
  line: 'a unit on a serial line',
}

/** A run: the steps by which one way of bringing devices into service goes. */
export interface RunFacts {
  readonly id: string
  readonly name: string
  readonly about: string
  /** Kinds that it is for; empty where the way of setting decides. */
  readonly kinds: readonly string[]
  readonly ways: readonly WayOfSetting[]
  /** Where a device without an address of its own stands, that it is for. */
  readonly places?: readonly RunPlace[]
  /** Never taken by itself; a person chooses it for a device. */
  readonly whenChosen?: boolean
  /** May be begun at any time for a device of its kinds, or of any kind where it names none; `only`: never in the order. */
  readonly onDemand?: 'only' | 'also'
  /** Equal devices behind one relay are done in one stop: each step once, steps "in turn" once for each. */
  readonly together?: true
  readonly steps: readonly RunStep[]
}

/** A run of the job's own: a changed copy, or one from a file. */
export interface OwnRun {
  readonly id: string
  readonly facts: RunFacts
  readonly version: number
}

/** Whether a run may be used for a device of this kind that is set this way; `place` of one without an address of its own. */
export function runFits(run: RunFacts, kind: string, way: WayOfSetting, place?: RunPlace): boolean {
  if (run.onDemand === 'only') return false
  if (run.kinds.length === 0 && place && run.places?.includes(place)) return true
  return run.kinds.length > 0 ? run.kinds.includes(kind) : run.ways.includes(way)
}

/** Whether a run may be begun for a device of this kind at any time, beside the order. */
export const runFitsNow = (run: RunFacts, kind: string): boolean =>
  run.onDemand !== undefined && (run.kinds.length === 0 || run.kinds.includes(kind))

/** The run of a device: the job's own before those that ship, one for its kind before one for its way of setting. */
export function runFor(kind: string, way: WayOfSetting, runs: readonly RunFacts[]): RunFacts | undefined {
  const byItself = runs.filter((run) => !run.whenChosen && run.onDemand !== 'only')
  return (
    byItself.find((run) => run.kinds.includes(kind) && (run.ways.length === 0 || run.ways.includes(way))) ??
    byItself.find((run) => run.kinds.length === 0 && run.ways.includes(way)) ??
    byItself.find((run) => run.kinds.includes(kind))
  )
}

/**
 * The run of a device without an address of its own: one for its kind at such a place, then one for the place, where
 * its kind usually has an address; `undefined` where its kind decides.
 */
export function runAtPlace(
  kind: { readonly id: string; readonly isAddressed: boolean },
  place: RunPlace,
  runs: readonly RunFacts[],
): RunFacts | undefined {
  const there = runs.filter((run) => !run.whenChosen && run.onDemand !== 'only' && run.places?.includes(place))
  return (
    there.find((run) => run.kinds.includes(kind.id)) ??
    (kind.isAddressed ? there.find((run) => run.kinds.length === 0) : undefined)
  )
}
