import { formatSubnet, subnetOf } from '../address'
import type { Device, Job } from '../job'
import { laptopIsIn, latestFact, portOf, type LaptopState, type WalkRecord } from '../procedure'
import type { HostAddress } from '../sequence'
import { agrees, differs, judged, notKnown, type CheckResult, type Look } from './model'
import { isSameCode } from './written'

/** What a device says of itself (FC 43/14). Texts it does not have are blank. */
export interface IdentitySeen {
  readonly text: string
  readonly productCode: string
  readonly revision: string
  readonly parts: readonly string[]
}

/** What was seen at an address. */
export interface SeenAt {
  readonly address: string
  readonly ports: readonly { readonly port: number; readonly connection: 'open' | 'refused' | 'silent' }[]
  readonly identities: readonly IdentitySeen[]
  /** From the laptop's own table of neighbours; `null` where it is not in it. */
  readonly hardwareAddress: string | null
  /** Whether the laptop is in a subnet of it: if not, silence says nothing. */
  readonly canSee: boolean
}

interface Whom {
  readonly job: Job
  readonly record: WalkRecord
  readonly device: Device
}

const live = { how: 'read-live' } as const
const answersAt = ({ ports }: SeenAt) => ports.some(({ connection }) => connection !== 'silent')

/** Whether somebody answers, and only one. */
function lookAtAddress(seen: SeenAt): Look {
  const { address, identities } = seen
  if (!answersAt(seen))
    return seen.canSee
      ? differs(`Nothing answers at ${address}.`)
      : notKnown(`Nothing answers at ${address}, and the laptop is in no subnet of it: that says nothing.`)
  if (identities.length > 1)
    return differs(`Two answer at ${address}: ${identities.map(({ text }) => text).join(' and ')}.`)
  const open = seen.ports.filter(({ connection }) => connection === 'open').map(({ port }) => port)
  if (open.length === 0) return differs(`${address} answers, every port closed.`)
  const says = identities[0] ? `: ${identities[0].text}` : ''
  return agrees(`${address} answers at port ${open.join(', ')}${says}.`)
}

/**
 * Somebody answers at an address. Who it is, is another question.
 *
 * @param planned what was seen at the planned address, where it was silent at the present one
 */
export function judgeAnswers(seen: SeenAt | undefined, planned?: SeenAt): CheckResult {
  const nothing = 'No address is known for it.'
  const look = seen && lookAtAddress(seen)
  const silent = seen !== undefined && !answersAt(seen)
  if (look?.state !== 'differs' || !silent || !planned)
    return judged(look ? [look] : [], { ...live, needs: 'one', nothing })
  const there = lookAtAddress(planned)
  const second = answersAt(planned)
    ? differs(`At its planned address, ${planned.address}, somebody answers: the device may be there.`)
    : there.state === 'not-known'
      ? notKnown(`Whether it is at ${planned.address}, as planned, the laptop cannot see from where it is.`)
      : differs(`Nor does anything at ${planned.address}, as planned.`)
  const result = judged([look, second], { ...live, needs: 'one' })
  return second.state === 'not-known' ? { ...result, say: `${look.say} ${second.say}` } : result
}

/**
 * The device that is meant answers at its planned address. It is told by what identifies it (order code, serial number,
 * hardware address, what it said at its old address), not by how it is called. Nothing to tell it by: not conclusive.
 */
export function judgeReached(whom: Whom, seen: SeenAt | undefined): CheckResult {
  if (!seen) return judgeAnswers(undefined)
  const there = lookAtAddress(seen)
  if (there.state !== 'agrees') return judged([there], { ...live, needs: 'one' })
  const who = identityLooks(whom, seen)
  const result = judged(who, {
    ...live,
    needs: 'one',
    good: there.say,
    nothing: `${there.say} That it is ${whom.device.tag} was compared with nothing: read its label, or see which box it is.`,
  })
  return result.verdict === 'not-conclusive' && who.length > 0
    ? { ...result, say: `${there.say} ${result.say}` }
    : result
}

function identityLooks(whom: Whom, seen: SeenAt): readonly Look[] {
  const { job, record, device } = whom
  const looks: Look[] = []
  const [identity] = seen.identities
  const others = job.devices.filter((each) => each.id !== device.id)
  const codeOf = (each: Device) => each.orderCodeFound || each.orderCode
  if (identity) {
    const { productCode, parts } = identity
    const own = codeOf(device)
    if (productCode !== '' && own !== '') {
      const other = others.find((each) => codeOf(each) !== '' && isSameCode(codeOf(each), productCode))
      if (isSameCode(own, productCode))
        looks.push(
          other
            ? notKnown(`Order code: "${productCode}", as ${other.tag} has it too.`)
            : agrees(`Order code: "${productCode}".`),
        )
      else if (other)
        looks.push(
          differs(`"${productCode}" answers at ${seen.address}: the order code of ${other.tag}, not of ${device.tag}.`),
        )
      else looks.push(notKnown(`It says "${productCode}"; whether that is "${own}" is not known.`))
    }
    const withSerial = [device, ...others].find((each) => each.serialNumber !== '' && parts.includes(each.serialNumber))
    if (withSerial)
      looks.push(
        withSerial.id === device.id
          ? agrees(`Serial number: ${device.serialNumber}.`)
          : differs(`The serial number of ${withSerial.tag} answers at ${seen.address}.`),
      )
    const before = latestFact(record, device.id, 'says')?.text
    if (before !== undefined)
      looks.push(
        before === identity.text
          ? saysTheSame(whom, before)
          : differs(`It says "${identity.text}"; at its old address it said "${before}".`),
      )
    if (parts.includes(device.tag)) looks.push(agrees(`It is called ${device.tag}.`))
    const called = others.find((each) => parts.includes(each.tag))
    if (called) looks.push(notKnown(`It is called ${called.tag}.`))
  }
  const mac = latestFact(record, device.id, 'mac')?.text || portOf(device)?.mac
  if (mac && seen.hardwareAddress)
    looks.push(
      mac.toLowerCase() === seen.hardwareAddress.toLowerCase()
        ? agrees(`Hardware address: ${mac}.`)
        : differs(`${seen.hardwareAddress} answers at ${seen.address}; ${device.tag} is ${mac}.`),
    )
  const heard = latestFact(record, device.id, 'heard')?.text
  if (heard !== undefined && seen.hardwareAddress)
    looks.push(
      heard.toLowerCase() === seen.hardwareAddress.toLowerCase()
        ? agrees('Its hardware address is the one that was heard at its old address.')
        : differs(`${seen.hardwareAddress} answers at ${seen.address}; at its old address it was ${heard}.`),
    )
  const box = latestFact(record, device.id, 'identity')
  if (box) looks.push(agrees(`Which box it is: ${box.text}.`))
  return looks
}

/** Boxes of one kind often say the same: then it does not tell which of them answers. */
function saysTheSame({ job, record, device }: Whom, text: string): Look {
  const twin = job.devices.find((each) => each.id !== device.id && latestFact(record, each.id, 'says')?.text === text)
  return twin
    ? notKnown(`It says what it said at its old address, and so does ${twin.tag}.`)
    : agrees('It says what it said at its old address.')
}

/** Nobody answers any more where it was. */
export function judgeGone(seen: SeenAt | undefined): CheckResult {
  if (!seen) return judged([], { ...live, needs: 'one', nothing: 'Where it was is not known.' })
  if (answersAt(seen)) return judged([differs(`It still answers at ${seen.address}.`)], { ...live, needs: 'one' })
  return judged(
    [
      seen.canSee
        ? agrees(`Nobody answers at ${seen.address} any more.`)
        : notKnown(`The laptop is in no subnet of ${seen.address}: that nobody answers says nothing.`),
    ],
    { ...live, needs: 'one' },
  )
}

/** The laptop in the subnet that a step needs. */
export function judgeLaptop(laptop: LaptopState, where: HostAddress | undefined): CheckResult {
  if (!where) return judged([], { ...live, needs: 'one', nothing: 'The subnet is not known.' })
  const cidr = formatSubnet(subnetOf(where.address, where.prefix))
  const now = laptop.interfaces
    .filter((adapter) => !adapter.loopback)
    .map(({ name, address, prefix }) => `${name} ${address}/${prefix}`)
  const is = now.length > 0 ? now.join(', ') : 'no adapter with an address'
  const isIn = laptopIsIn(laptop, cidr)
  return judged([isIn ? agrees(`In ${cidr}: ${is}.`) : differs(`Not in ${cidr}: ${is}.`)], { ...live, needs: 'one' })
}

/** Every unit that is planned behind a device. `identity` is blank where it answers and says nothing of itself. */
export function judgeUnits(
  units: readonly { readonly tag: string; readonly unit: number; readonly identity: string | undefined }[],
): CheckResult {
  const looks = units.map(({ tag, unit, identity }) =>
    identity === undefined ? differs(`Silent: ${tag} (${unit}).`) : agrees(''),
  )
  return judged(looks, {
    ...live,
    needs: 'all',
    good: `${units.length} ${units.length === 1 ? 'unit answers' : 'units answer'}.`,
    nothing: 'No unit is planned behind it.',
  })
}

interface RowSeen {
  readonly units: readonly {
    readonly tag: string
    /** The number that is planned. */
    readonly unit: number | null
    /** What answered there said of itself; `undefined` where nobody answered. */
    readonly identity: string | undefined
  }[]
  /** The number after the last that is planned, and whether somebody answers there. */
  readonly next: { readonly unit: number; readonly answers: boolean } | undefined
}

/**
 * At every number of a row somebody answers, and nobody at the number after the last. Two modules that were exchanged
 * answer just so: which is which it cannot say, and does not.
 */
export function judgeRow({ units, next }: RowSeen): CheckResult {
  const looks = units.map(({ tag, unit, identity }): Look => {
    if (unit === null) return notKnown(`No number is planned for ${tag}.`)
    const twin = units.find((each) => each.tag !== tag && each.unit === unit)
    if (twin) return differs(`${tag} and ${twin.tag} are both planned at number ${unit}.`)
    return identity === undefined ? differs(`Silent: ${tag} (${unit}).`) : agrees('')
  })
  const beyond = next?.answers
    ? [
        differs(
          `Number ${next.unit} answers too, and nobody is planned there: a module more than planned, or a second press.`,
        ),
      ]
    : []
  const numbers = units.map(({ unit }) => unit ?? 0)
  return judged([...looks, ...(looks.length > 0 ? beyond : [])], {
    ...live,
    needs: 'all',
    good: `${units.length} answer, at ${Math.min(...numbers)} to ${Math.max(...numbers)}.${next ? ` Nobody answers at ${next.unit}.` : ''} Which module is which rests on the order in which they were done.`,
    nothing: 'No module is in this row.',
  })
}

interface TextSeen {
  /** The device that the text comes through; `undefined` where there is none. */
  readonly relay: string | undefined
  /** The port that is planned for it. */
  readonly port: number | null
  /** What arrived; `null` where nothing did in time, `undefined` where no connection was taken. */
  readonly came: string | null | undefined
}

/** How long text is waited for, s; the server waits no longer. */
const TEXT_SECONDS = 8

/** Text arrives from a device behind a converter, at the port that is planned for it. */
export function judgeText({ relay, port, came }: TextSeen): CheckResult {
  const look = (): Look => {
    if (relay === undefined) return notKnown('It hangs behind nothing that has an address.')
    if (port === null) return notKnown('No text port is planned for it.')
    if (came === undefined) return differs(`${relay} does not take a connection at port ${port}.`)
    return came === null ? differs(`No text within ${TEXT_SECONDS} s.`) : agrees(`"${came}" arrived.`)
  }
  return judged([look()], { ...live, needs: 'one' })
}
