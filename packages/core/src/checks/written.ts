import { differences, versionFits } from '../identity'
import type { Device, Job } from '../job'
import { latestFact, portOf, presentOf, rackOf, type RackSlot, type WalkRecord } from '../procedure'
import { agrees, differs, judged, notKnown, type CheckResult, type Look } from './model'

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
  const relation = device.firmwareRelation.replace('-', ' ')
  if (device.firmwareFound === '')
    return judged([notKnown(`Its firmware is not written down yet; asked for: ${relation} ${asked}.`)], {
      ...computed,
      needs: 'one',
    })
  const say = `Found ${device.firmwareFound}, asked for: ${relation} ${asked}.`
  const fits = versionFits(device.firmwareFound, device.firmwareRelation, asked)
  return judged([fits ? agrees(say) : differs(say)], { ...computed, needs: 'one' })
}

export function namesEqual({ device }: Written): CheckResult {
  const looks = device.namePlaces.map(({ where, text }) => lookAtTexts(device.hostName, text, ['In the device', where]))
  return judged(looks, {
    ...computed,
    needs: 'all',
    good: `"${device.hostName}" everywhere.`,
    nothing: 'Its name stands in one place only.',
  })
}

/** The hardware address of the plan, which the reservation has too, against the one on the label. */
export function macKnown({ record, device }: Written): CheckResult {
  const planned = portOf(device)?.mac ?? ''
  const label = latestFact(record, device.id, 'mac')?.text ?? ''
  return judged([lookAtTexts(planned, label, ['The line-up', 'The label'])], { ...computed, needs: 'all' })
}

/** Which box it is matters while another with power has its address. */
export function identified({ job, record, device }: Written): CheckResult {
  const own = presentOf(job, record, device)
  const known = latestFact(record, device.id, 'identity')
  if (known) return judged([agrees(`Identified: ${known.text}.`)], { ...computed, needs: 'one' })
  const others = job.devices.filter((each) => each.id !== device.id && portOf(each))
  const looks = others.map((other): Look => {
    const present = presentOf(job, record, other)
    if (!present || !own) return notKnown(`Where ${other.tag} is now is not known.`)
    if (present.address !== own.address) return agrees('')
    return latestFact(record, other.id, 'power')?.text === 'on'
      ? differs(`${other.tag} has the same address: find out which box is which first.`)
      : agrees('')
  })
  return judged(looks, {
    ...computed,
    needs: 'one',
    good: 'Nobody else with power has its address.',
    nothing: 'There is no other device to tell it from: say how it is known which box it is.',
  })
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
