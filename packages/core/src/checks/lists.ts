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
  textArrived,
  type ListedRow,
  type WalkRecord,
} from '../procedure'
import { agrees, differs, judged, type CheckResult, type Look } from './model'
import { lookAtVersion } from './versions'
import type { Written } from './written'

const computed = { how: 'computed' } as const

const looksAt = (rows: readonly ListedRow[]): readonly Look[] =>
  rows.map(({ state, say }) => (state === 'agrees' ? agrees('') : differs(say)))

/**
 * The nodes that a search listed are those that are planned: every one, under its number, and no other.
 * @param since the search, ms since 1970: a list of another search says nothing of this one; `undefined` while it is not
 *   done
 */
export function nodesListed(
  { job, record }: Pick<Written, 'job' | 'record'>,
  row: readonly Device[],
  since: number | undefined,
): CheckResult {
  const relay = row[0]?.behindId ?? row[0]?.id ?? ''
  const list = since === undefined ? undefined : listKept(record, relay, listedNodesOf(row[0]), since)
  return judged(list === undefined ? [] : looksAt(nodesAgainst(job, row, list)), {
    ...computed,
    needs: 'all',
    good: `${row.length} nodes are listed as planned, and no other.`,
    nothing: 'The list of the search is not taken in yet.',
  })
}

/** Every device that a controller is to talk to is verified: those it talks to come before its program. */
export function servedVerified({ job, record, device }: Written): CheckResult {
  const looks = servedBy(job, device).map((served) => lookAtVerified(record, served))
  return judged(looks, {
    ...computed,
    needs: 'all',
    good: `${looks.length} it talks to are verified.`,
    nothing: 'No device is planned that it talks to.',
  })
}

/**
 * Verified is a device where it is planned, as it was seen last: a number or an address that was planned before, or one
 * that it was found at since, says nothing of the plan.
 */
function lookAtVerified(record: WalkRecord, served: Device): Look {
  const open = differs(`Not verified yet: ${served.tag}.`)
  const address = portOf(served)?.address
  if (address) {
    const last = latestFact(record, served.id, 'address')
    if (!last) return open
    if (last.text !== address) return differs(`${served.tag} was last seen at ${last.text}, planned is ${address}.`)
    return last.standing === 'verified' ? agrees('') : open
  }
  const numbers: readonly (readonly [string, string])[] = [
    ['unit-id', served.unitId === null ? '' : String(served.unitId)],
    ['node', served.nodes[0]?.node == null ? '' : String(served.nodes[0].node)],
    ['text', served.textPort === null ? '' : textArrived(served.textPort)],
  ]
  const seen = numbers.flatMap(([setting, planned]) => {
    const fact = latestFact(record, served.id, setting)
    return fact ? [{ fact, planned, setting }] : []
  })
  const [other] = seen.filter(({ fact, planned }) => fact.text !== planned)
  if (other)
    return differs(
      `${served.tag}: ${other.setting.replace('-', ' ')} ${other.fact.text} was seen, planned is ${other.planned || 'none'}.`,
    )
  return seen.some(({ fact: { standing } }) => standing === 'verified' || standing === 'in-force') ? agrees('') : open
}

/**
 * The controller sees every device it is to talk to, none at fault.
 * @param since its download, ms since 1970: a list from before says nothing of now; `undefined` while it is not done
 */
export function controllerSees({ job, record, device }: Written, since: number | undefined): CheckResult {
  const served = servedBy(job, device)
  const list = since === undefined ? undefined : listKept(record, device.id, LISTED_DEVICES, since)
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
  return judged([lookAtVersion(relay.tag, relay.firmwareFound, 'at-least', asked)], { ...computed, needs: 'one' })
}
