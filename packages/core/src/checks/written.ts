import { differences, parseHardwareAddress } from '../identity'
import type { Device, Job } from '../job'
import {
  groupOf,
  isGroupLive,
  latestFact,
  LEAD_SETTING,
  NAME_IN,
  namePlacesOf,
  portOf,
  presentOf,
  rackOf,
  type RackSlot,
  type WalkRecord,
} from '../procedure'
import { agrees, differs, judged, notKnown, type CheckResult, type Look } from './model'
import { lookAtVersion } from './versions'

/** What is compared without asking anything: what is planned, and what somebody wrote down. */
export interface Written {
  readonly job: Job
  readonly record: WalkRecord
  readonly device: Device
}

const computed = { how: 'computed' } as const

/** Two texts that have to be the same, letter for letter; a blank one cannot be compared. */
export function lookAtTexts(planned: string, found: string, where: readonly [string, string]): Look {
  if (planned === '' || found === '')
    return notKnown(planned === '' ? `${where[0]}: nothing is planned.` : `${where[1]}: nothing is written down yet.`)
  if (planned === found) return agrees(`"${planned}" in both.`)
  const [first] = differences(planned, found)
  const alike = first?.looksAlike ? `, which look alike` : ''
  const at = first ? ` They differ at character ${first.at + 1}${alike}.` : ''
  return differs(`${where[0]}: "${planned}"; ${where[1].toLowerCase()}: "${found}".${at}`)
}

/** Plan, label, and what the device says by itself: three facts, compared. */
export function orderCode({ record, device }: Written): CheckResult {
  const says = latestFact(record, device.id, 'product-code')?.text ?? ''
  const looks = [lookAtTexts(device.orderCode, device.orderCodeFound, ['The parts list', 'The label'])]
  const written = device.orderCodeFound || device.orderCode
  if (says !== '' && written !== '')
    looks.push(
      isSameCode(written, says)
        ? agrees(`The device says "${says}".`)
        : differs(`The device says "${says}"; written down is "${written}".`),
    )
  // What the device says cannot stand for a label that nobody read.
  return judged(looks, { ...computed, needs: 'all' })
}

/** The first slot that has on its label what the project has here, and the other way round. */
const exchangedWith = (slots: readonly RackSlot[], slot: RackSlot | undefined): RackSlot | undefined =>
  slots.find((each) => each.found === slot?.project && each.project === slot.found)

/**
 * Every slot of a rack: the whole order code on its label is that of the project. Two that are exchanged are named as
 * such; a slot of which one is not known is not compared.
 */
export function rackCodes({ job, record, device }: Written): CheckResult {
  const slots = rackOf(job, record, device)
  const looks = slots.map(({ slot, found, project, device: { tag } }, place): Look => {
    const where = slot === '' ? tag : `Slot ${slot}, ${tag}`
    if (project === '') return notKnown(`${where}: what the project has there is not known.`)
    if (found === '') return notKnown(`${where}: its label is not written down yet.`)
    if (found === project) return agrees('')
    const other = exchangedWith(slots, slots[place])
    // Said at the first of the two; a third with the same codes has a sentence of its own.
    if (other && slots.indexOf(other) < place && exchangedWith(slots, other) === slots[place]) return differs('')
    if (other) return differs(`Slot ${slot} and slot ${other.slot} are exchanged: ${tag} and ${other.device.tag}.`)
    const look = lookAtTexts(project, found, ['project', 'label'])
    return differs(`${where}: ${look.say}`)
  })
  return judged(looks, {
    ...computed,
    needs: 'all',
    good: `${slots.length} slots hold what the project has there.`,
    nothing: 'No module is planned in its rack.',
  })
}

/** A device mostly says a part of its order code: the model without the options. */
export function isSameCode(a: string, b: string): boolean {
  const [short, long] = [a.trim().toLowerCase(), b.trim().toLowerCase()].sort((x, y) => x.length - y.length)
  return short !== undefined && long !== undefined && short.length >= 3 && long.startsWith(short)
}

export function firmware({ job, device }: Written): CheckResult {
  const measure = job.devices.find((each) => each.id === device.firmwareOfId)
  const asked = measure ? measure.firmwareFound : device.firmwareNeeded
  const nothing = 'No firmware is asked for.'
  if (device.firmwareRelation === 'any' || asked === '') return judged([], { ...computed, needs: 'one', nothing })
  return judged([lookAtVersion(device.tag, device.firmwareFound, device.firmwareRelation, asked)], {
    ...computed,
    needs: 'one',
  })
}

/**
 * The name of a device as it was read in the device and in each place where it stands, against the planned one, letter
 * for letter. What is planned in a place was not read there.
 */
export function namesEqual({ record, device }: Written): CheckResult {
  if (device.namePlaces.length === 0)
    return judged([], { ...computed, needs: 'all', nothing: 'Its name stands in one place only.' })
  const looks = namePlacesOf(device).map((where): Look => {
    const read = latestFact(record, device.id, `${NAME_IN}${where}`, 'found')
    if (!read) return notKnown(`Not read yet: the name in ${where}.`)
    return lookAtTexts(device.hostName, read.text, ['Planned', where])
  })
  return judged(looks, { ...computed, needs: 'all', good: `"${device.hostName}" was read in each place.` })
}

/** The hardware address of the plan, which the reservation has too, against the one on the label. */
export function macKnown({ record, device }: Written): CheckResult {
  const planned = portOf(device)?.mac ?? ''
  const label = latestFact(record, device.id, 'mac')?.text ?? ''
  return judged([lookAtTexts(inOneNotation(planned), inOneNotation(label), ['The line-up', 'The label'])], {
    ...computed,
    needs: 'all',
  })
}

/** The same hardware address however it is written; what is none stays as it was typed. */
function inOneNotation(text: string): string {
  const read = parseHardwareAddress(text)
  return read.ok ? read.value : text.trim()
}

/**
 * Which box it is matters while another with power may have its address. Whoever has no power is nobody's twin, once
 * somebody said so; of whom nobody said it, it is not known.
 */
export function identified({ job, record, device }: Written): CheckResult {
  const own = presentOf(job, record, device)
  const known = latestFact(record, device.id, 'identity')
  if (known) return judged([agrees(`Identified: ${known.text}.`)], { ...computed, needs: 'one' })
  const others = job.devices.filter((each) => each.id !== device.id && portOf(each))
  const looks = others.map((other): Look => {
    const present = presentOf(job, record, other)
    const power = powerOf(job, record, other)
    if (power === 'off' || latestFact(record, other.id, LEAD_SETTING)?.text === 'pulled') return agrees('')
    if (!own) return notKnown(`Where ${device.tag} is now is not known.`)
    if (!present) return notKnown(`Where ${other.tag} is now is not known, nor whether it has power.`)
    if (present.address !== own.address) return agrees('')
    return power === 'on'
      ? differs(`${other.tag} has the same address: find out which box is which first.`)
      : notKnown(`${other.tag} may have the same address, and whether it has power is not known.`)
  })
  return judged(looks, {
    ...computed,
    needs: 'all',
    good: 'Nobody else with power has its address.',
    nothing: 'There is no other device to tell it from: say how it is known which box it is.',
  })
}

/**
 * Whether a device has power, as somebody saw or said it: what was switched last, else what the order that was begun
 * says of its breaker at the start. Of whom is left out of the order, and before one is begun, nobody said it.
 */
function powerOf(job: Job, record: WalkRecord, device: Device): 'on' | 'off' | undefined {
  const fact = latestFact(record, device.id, 'power')
  if (fact) return fact.text === 'on' ? 'on' : 'off'
  if (record.order.length === 0 || record.settings.leftOut.includes(device.id)) return undefined
  return isGroupLive(job, record, groupOf(device)) ? 'on' : 'off'
}

/** The same file twice is one backup. */
export function backups({ record, device }: Written): CheckResult {
  const texts = record.facts
    .filter((fact) => fact.deviceId === device.id && fact.setting === 'backup')
    .map(({ text }) => text.trim().toLowerCase().replace(/\s+/g, ' '))
  const count = new Set(texts).size
  const twice = texts.length > count ? ` ${texts.length - count} of them the same again.` : ''
  const say = `${count} of 2 backups written down.${twice}`
  const looks = count >= 2 ? [agrees(say)] : count === 1 ? [differs(say)] : [notKnown(say)]
  return judged(looks, { ...computed, needs: 'one' })
}
