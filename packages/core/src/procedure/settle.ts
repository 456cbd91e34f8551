import { formatIpv4, parseIpv4 } from '../address'
import { parseHardwareAddress } from '../identity'
import type { Device, Job } from '../job'
import type { Change } from '../changes'
import { factoryOf, portOf } from './present'
import { breakerOf } from './breaker'
import { LEAD_SETTING } from './lead'
import { namePlacesOf, readNames } from './names'
import { NAME_IN, TEXT_ON_TAG, textArrived, type SettingFact, type Standing } from './record'
import type { Becomes } from './run'
import { isSettled, type Stop, type WalkStep } from './walk'

/** What settling a step brings with it, beside its own record. */
export interface Consequences {
  readonly facts: readonly Pick<SettingFact, 'deviceId' | 'setting' | 'standing' | 'text' | 'how'>[]
  readonly changes: readonly Change[]
  readonly leaves: { readonly what: string; readonly putBack: string } | null
  /** Temporary things that are back by it, by the beginning of what they are called. */
  readonly putsBack: readonly string[]
}

const nothing: Consequences = { facts: [], changes: [], leaves: null, putsBack: [] }

/** The step that must be settled before this one; `undefined` when nothing holds it back. */
export function heldBackBy(stop: Stop, key: string): WalkStep | undefined {
  for (const step of stop.steps) {
    if (step.key === key) return undefined
    if (step.blocks && !isSettled(step)) return step
  }
  return undefined
}

/**
 * What follows from a step that is done: facts about settings, what is written down goes into the line-up, what is
 * left behind goes into the ledger.
 */
export function consequencesOf(
  job: Job,
  stop: Stop,
  done: WalkStep,
  note: string,
  state: 'done' | 'overridden' = 'done',
): Consequences {
  const device = job.devices.find((each) => each.id === done.deviceId)
  const { step } = done
  const facts: Consequences['facts'][number][] = []
  const fact = (of: string, setting: string, standing: Standing, text: string, how: SettingFact['how'] = 'seen') =>
    facts.push({ deviceId: of, setting, standing, text, how })
  const { action } = stop
  if (action?.kind === 'group-on' && step.id === 'on')
    for (const id of stop.deviceIds) {
      fact(id, 'power', 'in-force', 'on')
    }
  if (action?.kind === 'group-off' && step.id === 'off')
    for (const id of stop.deviceIds) fact(id, 'power', 'in-force', 'off')
  if (state === 'done' && (action?.kind === 'lead-out' || action?.kind === 'lead-in'))
    fact(action.deviceId, LEAD_SETTING, 'in-force', action.kind === 'lead-out' ? 'pulled' : 'plugged')
  if (action?.kind === 'set') {
    const to = formatIpv4(action.to.address)
    const writes = stop.steps.filter((each) => each.step.acts?.includes('writes') && each.step.phase === 'set')
    if (writes.at(-1)?.key === done.key) fact(action.deviceId, 'address', 'entered', to, 'typed')
    const open = stop.steps.filter((each) => each.key !== done.key && !isSettled(each))
    if (open.length === 0 && !action.pending) fact(action.deviceId, 'address', 'in-force', to)
  }
  // What was not looked at is not seen, and a reason is not a reading.
  const isSeen = state === 'done'
  if (isSeen && step.check === 'reached-planned' && device) {
    const planned = portOf(device)?.address
    if (planned) {
      fact(device.id, 'address', 'in-force', planned, 'read-live')
      fact(device.id, 'address', 'verified', planned, 'read-live')
    }
  }
  // That somebody answers at a number does not say which module: that rests on the order of the turns.
  if (isSeen && step.check === 'row-answers')
    for (const each of job.devices.filter(({ id }) => stop.deviceIds.includes(id)))
      if (each.unitId !== null) fact(each.id, 'unit-id', 'in-force', String(each.unitId), 'read-live')
  // Reached leg by leg, it answered under its unit id; a text that arrived came from nobody else.
  if (isSeen && device && !portOf(device)?.address) {
    if (step.check === 'reached-present' && device.unitId !== null && device.textPort === null)
      fact(device.id, 'unit-id', 'verified', String(device.unitId), 'read-live')
    if (step.check === 'text-arrives' && device.textPort !== null)
      fact(device.id, 'text', 'verified', textArrived(device.textPort), 'read-live')
  }
  if (isSeen && step.check === 'nodes-listed')
    for (const each of job.devices.filter(({ id }) => stop.deviceIds.includes(id)))
      if (each.nodes[0]?.node != null) fact(each.id, 'node', 'verified', String(each.nodes[0].node))
  const written = isSeen && device && step.record ? recordChanges(device, step.record, note) : nothing
  const cableBack = action?.kind === 'cable' && action.into === 'switch' ? ['Laptop’s cable'] : []
  const moved = action?.kind === 'laptop' && step.id === 'set' ? ['Laptop at '] : []
  // That it is at another address now is only so when somebody saw it.
  if (step.becomes && device && (state === 'done' || step.becomes !== 'at-factory'))
    facts.push(...becoming(job, device, step.becomes))
  return {
    facts: [...facts, ...written.facts],
    changes: written.changes,
    leaves: step.leaves ?? null,
    putsBack: [...cableBack, ...moved, ...(step.putsBack ? [step.putsBack] : [])],
  }
}

/** How things are after a step that says so: power of all that hang on its breaker, or the address of the device. */
function becoming(job: Job, device: Device, becomes: Becomes): Consequences['facts'] {
  const address = (standing: Standing, text: string, how: SettingFact['how']) => [
    { deviceId: device.id, setting: 'address', standing, text, how },
  ]
  switch (becomes) {
    case 'dead':
    case 'live': {
      const breaker = breakerOf(job, device)
      const text = becomes === 'live' ? 'on' : 'off'
      return job.devices
        .filter((each) => breakerOf(job, each) === breaker)
        .map(({ id }) => ({ deviceId: id, setting: 'power', standing: 'in-force', text, how: 'seen' }))
    }
    case 'at-factory': {
      const factory = factoryOf(job, device)
      // Without an address of its own it has none that is known until somebody reads it.
      return address('in-force', factory ? formatIpv4(factory.address) : 'not known', 'seen')
    }
    case 'entered': {
      const planned = portOf(device)?.address
      return planned ? address('entered', planned, 'typed') : []
    }
  }
}

function recordChanges(device: Device, record: NonNullable<WalkStep['step']['record']>, note: string): Consequences {
  const set = (fields: Readonly<Record<string, string>>): Consequences => ({
    ...nothing,
    changes: [{ op: 'set', table: 'device', id: device.id, version: device.version, fields }],
  })
  const fact = (setting: string, standing: Standing, text: string): Consequences => ({
    ...nothing,
    facts: [{ deviceId: device.id, setting, standing, text, how: 'typed' }],
  })
  switch (record) {
    case 'serial-number':
      return set({ serialNumber: note })
    case 'order-code':
      return set({ orderCodeFound: note })
    case 'firmware':
      return set({ firmwareFound: note })
    case 'as-found':
      return { ...set({ asFound: note }), facts: fact('address', 'found', note).facts }
    // A label is a fact beside the plan, never the plan.
    case 'mac': {
      const mac = parseHardwareAddress(note)
      return mac.ok ? fact('mac', 'found', mac.value) : nothing
    }
    case 'names':
      return {
        ...nothing,
        facts: readNames(device, note).map(({ where, text }) => ({
          deviceId: device.id,
          setting: `${NAME_IN}${where}`,
          standing: 'found',
          text,
          how: 'typed',
        })),
      }
    case 'measured':
      return {
        ...nothing,
        facts: fact('measured', 'found', note.trim()).facts.map((each) => ({ ...each, how: 'measured' })),
      }
    case 'text-on-tag':
      return fact(TEXT_ON_TAG, 'found', note.trim())
    case 'unit-id':
      return fact(record, Number(note) === device.unitId ? 'verified' : 'found', note.trim())
    case 'node': {
      const planned = device.nodes.some(({ node }) => node === Number(note))
      return fact(record, planned ? 'verified' : 'found', note.trim())
    }
    default:
      return fact(record, 'found', note)
  }
}

/** Why what was written down cannot be taken; `undefined` when it can. */
export function refusedNote(
  step: WalkStep,
  note: string,
  device?: Device,
): { readonly what: string; readonly expected: string } | undefined {
  const { record, kind } = step.step
  if (kind === 'record' && note.trim() === '') return { what: 'Nothing is written down.', expected: 'what was read' }
  if (record === 'mac') {
    const read = parseHardwareAddress(note)
    if (!read.ok) return { what: read.refusal.what, expected: read.refusal.expected }
  }
  if (record === 'as-found') {
    const read = parseIpv4(note)
    if (!read.ok) return { what: read.refusal.what, expected: read.refusal.expected }
  }
  if ((record === 'node' || record === 'unit-id') && !/^\d{1,3}$/.test(note.trim()))
    return { what: `"${note}" is not a number.`, expected: 'a whole number of up to three digits' }
  if (record === 'measured' && !/\d/.test(note))
    return {
      what: `"${note}" holds no value.`,
      expected: 'the value that was measured, with its unit, and the instrument',
    }
  if (record === 'names' && device && readNames(device, note).length === 0)
    return {
      what: `"${note}" names no place.`,
      expected: `one of: ${namePlacesOf(device)
        .map((where) => `${where} = ...`)
        .join('; ')}`,
    }
  if (kind === 'decide' && !step.step.choices?.some((choice) => choice.say === note))
    return { what: 'Nothing is chosen.', expected: step.step.choices?.map((choice) => choice.say).join(' or ') ?? '' }
  return undefined
}

/** Whether something of a stop was settled by a reason, now or for good, and not by looking. */
export const isByReason = (stop: Stop): boolean =>
  stop.steps.some(({ record }) => record?.state === 'parked' || record?.state === 'overridden')
