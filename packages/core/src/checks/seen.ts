import { formatSubnet, subnetOf } from '../address'
import { laptopIsIn, type LaptopState } from '../procedure'
import type { HostAddress } from '../sequence'
import { agrees, differs, judged, notKnown, type CheckResult, type Look } from './model'
import { identityLooks } from './whoAnswers'
import { isSameCode, type Written } from './written'

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
  /** Whether the adapter that is there has a link for sure. */
  readonly hasLink: boolean
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
export function judgeReached(whom: Written, seen: SeenAt | undefined): CheckResult {
  if (!seen) return judgeAnswers(undefined)
  const there = lookAtAddress(seen)
  if (there.state !== 'agrees') return judged([there], { ...live, needs: 'one' })
  const { looks: who, needs } = identityLooks(whom, seen)
  const result = judged(who, {
    ...live,
    needs,
    good: there.say,
    nothing: `${there.say} That it is ${whom.device.tag} was compared with nothing: read its label, or see which box it is.`,
  })
  return result.verdict === 'not-conclusive' && who.length > 0
    ? { ...result, say: `${there.say} ${result.say}` }
    : result
}

/** Nobody answers any more where it was. */
export function judgeGone(seen: SeenAt | undefined): CheckResult {
  if (!seen) return judged([], { ...live, needs: 'one', nothing: 'Where it was is not known.' })
  if (answersAt(seen)) return judged([differs(`It still answers at ${seen.address}.`)], { ...live, needs: 'one' })
  const look = !seen.canSee
    ? notKnown(`The laptop has no link in a subnet of ${seen.address}: that nobody answers says nothing.`)
    : seen.hasLink
      ? agrees(`Nobody answers at ${seen.address} any more.`)
      : notKnown(`Nobody answers at ${seen.address}; whether the laptop’s cable is in is not known here. See its lamp.`)
  return judged([look], { ...live, needs: 'one' })
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

/** The way in, leg by leg, nearest first: what it is reached through, then the device itself. */
export interface LegsSeen {
  readonly tag: string
  readonly relay: string
  /** What was seen at the address of what it is reached through. */
  readonly first: CheckResult
  readonly second:
    | {
        readonly kind: 'text-port'
        readonly port: number
        readonly connection: 'open' | 'refused' | 'silent' | undefined
      }
    /** `identity` is blank where it answers and says nothing of itself, `undefined` where it is silent. */
    | { readonly kind: 'unit'; readonly unit: number; readonly identity: string | undefined }
    | { readonly kind: 'not-planned' }
    /** The first leg did not hold: nobody asked. */
    | undefined
}

/** A device that is reached through another: both legs have to hold. */
export function judgeLegs({ tag, relay, first, second }: LegsSeen): CheckResult {
  const near: Look =
    first.verdict === 'passed'
      ? agrees(`First leg, ${relay}: it answers.`)
      : { state: first.verdict === 'failed' ? 'differs' : 'not-known', say: `First leg, ${relay}: ${first.say}` }
  const far = (): Look => {
    if (near.state !== 'agrees' || second === undefined) return notKnown('Second leg: not looked at.')
    switch (second.kind) {
      case 'not-planned':
        return notKnown(`Second leg: no unit id is planned for ${tag}.`)
      case 'text-port': {
        const leg = `Second leg, its text port ${second.port}`
        return second.connection === 'open'
          ? agrees(`${leg}: it takes a connection. ${tag} itself shows when its text arrives.`)
          : differs(`${leg}: no connection.`)
      }
      case 'unit': {
        const leg = `Second leg, unit ${second.unit}`
        if (second.identity === undefined) return differs(`${leg}: silent.`)
        return agrees(`${leg}: it answers${second.identity === '' ? '' : `, ${second.identity}`}.`)
      }
    }
  }
  const legs = [near, far()]
  const result = judged(legs, { ...live, needs: 'all' })
  const said = legs.filter(({ say }) => say !== 'Second leg: not looked at.').map(({ say }) => say)
  return { ...result, say: `${said.join(' ')} ${result.compared} of ${result.of} looked at.` }
}

/**
 * Every unit that is planned behind a device: each has to have a number, one that no other has, and to answer there.
 * `identity` is blank where it answers and says nothing of itself.
 */
export function judgeUnits(
  units: readonly { readonly tag: string; readonly unit: number | null; readonly identity: string | undefined }[],
): CheckResult {
  const looks = units.map(({ tag, unit, identity }): Look => {
    if (unit === null) return notKnown(`No unit id is planned for ${tag}.`)
    const twin = units.find((each) => each.tag !== tag && each.unit === unit)
    if (twin) return differs(`${tag} and ${twin.tag} are both planned at ${unit}.`)
    return identity === undefined ? differs(`Silent: ${tag} (${unit}).`) : agrees('')
  })
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
    /** The order code on its label, else the planned one; blank where neither is known. */
    readonly orderCode: string
  }[]
  /** The number after the last that is planned, and whether somebody answers there. */
  readonly next: { readonly unit: number; readonly answers: boolean } | undefined
}

/**
 * At every number of a row somebody answers, and nobody at the number after the last. What a module says of itself is
 * held against the order codes: two that were done out of turn show where they are not equal. Of those that say nothing,
 * or are equal, which is which rests on the turns, and that is told.
 */
export function judgeRow({ units, next }: RowSeen): CheckResult {
  const isOf = (identity: string, code: string) =>
    code !== '' && identity.split(', ').some((part) => isSameCode(code, part))
  const looks = units.map(({ tag, unit, identity, orderCode }): Look => {
    if (unit === null) return notKnown(`No number is planned for ${tag}.`)
    const twin = units.find((each) => each.tag !== tag && each.unit === unit)
    if (twin) return differs(`${tag} and ${twin.tag} are both planned at number ${unit}.`)
    if (identity === undefined) return differs(`Silent: ${tag} (${unit}).`)
    if (orderCode !== '' && identity !== '' && !isOf(identity, orderCode)) {
      const other = units.find((each) => each.tag !== tag && isOf(identity, each.orderCode))
      return other
        ? differs(`At ${unit}, where ${tag} is planned, "${identity}" answers, as ${other.tag}: done out of turn.`)
        : notKnown(`At ${unit} "${identity}" answers; whether that is "${orderCode}" is not known.`)
    }
    return agrees('')
  })
  const beyond = next?.answers
    ? [
        differs(
          `Number ${next.unit} answers too, and nobody is planned there: a module more than planned, or a second press.`,
        ),
      ]
    : []
  const numbers = units.map(({ unit }) => unit ?? 0)
  const told = units.filter(({ identity, orderCode }) => orderCode !== '' && isOf(identity ?? '', orderCode))
  const alone = told.filter(
    ({ orderCode }) => told.filter((each) => isSameCode(each.orderCode, orderCode)).length === 1,
  )
  const which =
    alone.length === units.length
      ? 'Each says the order code that is planned there.'
      : 'Which module is which rests on the order in which they were done.'
  return judged([...looks, ...(looks.length > 0 ? beyond : [])], {
    ...live,
    needs: 'all',
    good: `${units.length} answer, at ${Math.min(...numbers)} to ${Math.max(...numbers)}.${next ? ` Nobody answers at ${next.unit}.` : ''} ${which}`,
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
  /** What the tag says that was scanned, as somebody wrote it down; blank where nobody did. */
  readonly expected: string
}

/** How long text is waited for, s; the server waits no longer. */
const TEXT_SECONDS = 8

/** What a converter or a console says before anybody has logged in. @source common practice, no source */
const PROMPT =
  /(log ?in|user ?name|password|passcode)\s*[:>]?\s*$|^[\w.@~/-]*\s*[$#>]\s*$|enter (your )?(name|password)/i

/**
 * Text arrives from a device behind a converter, at the port that is planned for it, and it is what the scanned tag
 * says: a line end, or a converter that asks for a log-in, is no text of the device.
 */
export function judgeText({ relay, port, came, expected }: TextSeen): CheckResult {
  const look = (): Look => {
    if (relay === undefined) return notKnown('It hangs behind nothing that has an address.')
    if (port === null) return notKnown('No text port is planned for it.')
    if (came === undefined) return differs(`${relay} does not take a connection at port ${port}.`)
    if (came === null) return differs(`No text within ${TEXT_SECONDS} s.`)
    const text = printable(came)
    if (text === '') return differs('Only a line end or unprintable signs arrived, no text.')
    if (PROMPT.test(text)) return differs(`"${text}" arrived: ${relay} asks for a log-in, the device said nothing.`)
    const wanted = printable(expected)
    if (wanted === '')
      return notKnown(`"${text}" arrived. What the tag says is not written down: there is nothing to compare it with.`)
    return text.includes(wanted)
      ? agrees(`"${text}" arrived, as the tag says.`)
      : differs(`"${text}" arrived; the tag says "${wanted}".`)
  }
  return judged([look()], { ...live, needs: 'one' })
}

/** What of a text can be seen: negotiation of a terminal and control signs left out. */
const printable = (text: string): string =>
  text

    .replace(/\xff[\xfb-\xfe][\s\S]/g, '')
    // eslint-disable-next-line no-control-regex -- they are what is left out
    .replace(/[\x00-\x1f\x7f-\x9f]+/g, ' ')
    .trim()
