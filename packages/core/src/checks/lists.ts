import { versionFits } from '../identity'
import type { Device } from '../job'
import {
  devicesAgainst,
  LISTED_DEVICES,
  listedNodesOf,
  listKept,
  latestFact,
  nodesAgainst,
  portOf,
  servedBy,
  type ListedRow,
} from '../procedure'
import { agrees, differs, judged, notKnown, type CheckResult, type Look } from './model'
import type { Written } from './written'

const computed = { how: 'computed' } as const

const looksAt = (rows: readonly ListedRow[]): readonly Look[] =>
  rows.map(({ state, say }) => (state === 'agrees' ? agrees('') : differs(say)))

/**
 * The nodes that a search listed are those that are planned: every one, under its number, and no other.
 * @param since the search, ms since 1970: a list of another search says nothing of this one
 */
export function nodesListed(
  { job, record }: Pick<Written, 'job' | 'record'>,
  row: readonly Device[],
  since: number,
): CheckResult {
  const relay = row[0]?.behindId ?? row[0]?.id ?? ''
  const list = listKept(record, relay, listedNodesOf(row[0]), since)
  return judged(list === undefined ? [] : looksAt(nodesAgainst(job, row, list)), {
    ...computed,
    needs: 'all',
    good: `${row.length} nodes are listed as planned, and no other.`,
    nothing: 'The list of the search is not taken in yet.',
  })
}

/** Every device that a controller is to talk to is verified: those it talks to come before its program. */
export function servedVerified({ job, record, device }: Written): CheckResult {
  const looks = servedBy(job, device).map((served): Look => {
    const address = portOf(served)?.address
    const isVerified = address
      ? latestFact(record, served.id, 'address', 'verified')?.text === address
      : ['unit-id', 'node', 'text'].some((setting) => {
          const fact = latestFact(record, served.id, setting)
          return fact?.standing === 'verified' || fact?.standing === 'in-force'
        })
    return isVerified ? agrees('') : differs(`Not verified yet: ${served.tag}.`)
  })
  return judged(looks, {
    ...computed,
    needs: 'all',
    good: `${looks.length} it talks to are verified.`,
    nothing: 'No device is planned that it talks to.',
  })
}

/**
 * The controller sees every device it is to talk to, none at fault.
 * @param since its download, ms since 1970: a list from before says nothing of now
 */
export function controllerSees({ job, record, device }: Written, since: number): CheckResult {
  const served = servedBy(job, device)
  const list = listKept(record, device.id, LISTED_DEVICES, since)
  if (served.length === 0 || list === undefined)
    return judged([], {
      ...computed,
      needs: 'all',
      nothing:
        served.length === 0
          ? 'No device is planned that it talks to.'
          : 'Its list of devices, as it is after the download, is not taken in yet.',
    })
  const rows = devicesAgainst(served, list)
  const known = rows.filter(({ state }) => state !== 'more')
  const more = rows.flatMap(({ state, say }) => (state === 'more' ? [say] : []))
  const seen = known.filter(({ state }) => state === 'agrees').length
  const result = judged(looksAt(known), { ...computed, needs: 'all', good: `It sees ${seen} of ${known.length}.` })
  const say = result.verdict === 'passed' ? result.say : `It sees ${seen} of ${known.length}. ${result.say}`
  return { ...result, say: [say, ...more].join(' ') }
}

/** An axis wants a firmware of its controller, not of itself. */
export function relayFirmware({ job, device }: Written): CheckResult {
  const relay = job.devices.find((each) => each.id === device.behindId)
  const asked = device.firmwareNeeded
  const nothing = relay ? 'No firmware is asked for.' : 'It hangs behind no controller.'
  if (!relay || asked === '') return judged([], { ...computed, needs: 'one', nothing })
  if (relay.firmwareFound === '')
    return judged([notKnown(`The firmware of ${relay.tag} is not written down yet; asked for: at least ${asked}.`)], {
      ...computed,
      needs: 'one',
    })
  const say = `${relay.tag} has ${relay.firmwareFound}, ${device.tag} asks for at least ${asked}.`
  return judged([versionFits(relay.firmwareFound, 'at-least', asked) ? agrees(say) : differs(say)], {
    ...computed,
    needs: 'one',
  })
}
