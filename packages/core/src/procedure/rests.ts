import { formatIpv4 } from '../address'
import type { Device, Job } from '../job'
import { groupOf } from './breaker'
import { LEAD_SETTING } from './lead'
import { servedBy } from './listed'
import { isGroupLive, portOf, presentOf } from './present'
import { PROJECT_CODE, rackOf } from './rack'
import { latestFact, NAME_IN, TEXT_ON_TAG, type StepRecord, type WalkRecord } from './record'
import { nearestWithAddress } from './relay'
import { checkIds, type CheckId } from './run'

/** What a check rested on when it passed, by name; with the check and the devices that it was about. */
export type Rests = Readonly<Record<string, string>>

interface About {
  readonly job: Job
  readonly record: WalkRecord
  readonly device: Device
}

/** Each thing that a check may rest on, as it stands now in one text. */
const restings = {
  'plant or bench': ({ job }) => job.mode,
  'planned address': ({ device }) => portOf(device)?.address ?? '',
  'present address': ({ job, record, device }) => addressText(presentOf(job, record, device)),
  'TCP port': ({ device }) => String(portOf(device)?.tcpPort ?? ''),
  'unit id': ({ device }) => String(device.unitId ?? ''),
  node: ({ device }) => device.nodes.map(({ node }) => node ?? '').join(),
  'text port': ({ device }) => String(device.textPort ?? ''),
  'way in': ({ job, device }) => wayIn(job, device),
  'order code': ({ device }) => `${device.orderCode} / ${device.orderCodeFound}`,
  'hardware address': ({ record, device }) =>
    `${portOf(device)?.mac ?? ''} / ${latestFact(record, device.id, 'mac')?.text ?? ''}`,
  firmware: ({ job, device }) =>
    [
      device.firmwareFound,
      device.firmwareRelation,
      device.firmwareOfId === null ? device.firmwareNeeded : (tagged(job, device.firmwareOfId)?.firmwareFound ?? ''),
    ].join(' '),
  'firmware of what it hangs on': ({ job, device }) =>
    `${tagged(job, device.behindId)?.firmwareFound ?? ''} ${device.firmwareNeeded}`,
  names: ({ record, device }) =>
    [
      device.hostName,
      ...device.namePlaces.map(({ where }) => `${where}: ${factText(record, device, `${NAME_IN}${where}`)}`),
      factText(record, device, `${NAME_IN}the device itself`),
    ].join('; '),
  subnet: ({ job, device }) => {
    const port = portOf(device)
    const network = job.networks.find(({ id }) => id === port?.networkId)
    return [port?.prefix ?? network?.cidr ?? '', port?.gateway ?? network?.gateway ?? ''].join(' ')
  },
  power: ({ record, device }) => factText(record, device, 'power'),
  'who else has its address': ({ job, record, device }) => othersAt(job, record, device),
  'codes of its rack': ({ job, record, device }) =>
    rackOf(job, record, device)
      .map(({ device: { id, orderCodeFound }, slot }) =>
        [slot, orderCodeFound, factText(record, { id }, PROJECT_CODE)].join(' '),
      )
      .join('; '),
  'whom it talks to': ({ job, device }) => servedBy(job, device).map(standing).join('; '),
  'what hangs behind it': ({ job, device }) =>
    job.devices
      .filter(({ behindId }) => behindId === device.id)
      .map(standing)
      .join('; '),
  'what the tag says': ({ record, device }) => factText(record, device, TEXT_ON_TAG),
} as const satisfies Readonly<Record<string, (about: About) => string>>

export type RestName = keyof typeof restings

/** What a check looks at, where, and what it rests on. */
export interface CheckFacts {
  /** What is compared with what. */
  readonly looksAt: string
  /** Whether the plant is asked now, or what is written down is compared. */
  readonly how: 'asks' | 'written'
  readonly restsOn: readonly RestName[]
  /**
   * Whether it says something of the moment before what comes next (who answers now, where the laptop is), or of how
   * things are from then on. What is of the moment is over once something after it was done.
   */
  readonly lasts: 'moment' | 'stands'
  /** From when on what it looks at counts, in words; blank where it is looked at now. */
  readonly since: string
}

const AT_ITS_ADDRESS = ['plant or bench', 'planned address', 'TCP port', 'way in'] as const

/** Every check with what it looks at and rests on: the page, the docs and the tests read the same list. */
export const checkFacts: Readonly<Record<CheckId, CheckFacts>> = {
  'reached-planned': {
    looksAt: 'who answers at the planned address: hardware address, serial number, order code, what it said before',
    how: 'asks',
    restsOn: [...AT_ITS_ADDRESS, 'subnet'],
    lasts: 'stands',
    since: '',
  },
  'reached-present': {
    looksAt: 'whether one answers, and only one, where it is now; without an address of its own leg by leg',
    how: 'asks',
    restsOn: ['plant or bench', 'present address', 'TCP port', 'unit id', 'text port', 'way in'],
    lasts: 'moment',
    since: '',
  },
  'gone-from-present': {
    looksAt: 'that nobody answers where it was, from a laptop with a link in that subnet',
    how: 'asks',
    restsOn: ['plant or bench', 'present address', 'power'],
    lasts: 'moment',
    since: '',
  },
  'laptop-in-subnet': {
    looksAt: 'addresses of the laptop’s adapters that have a link, against the subnet that the step needs',
    how: 'asks',
    restsOn: ['plant or bench'],
    lasts: 'moment',
    since: '',
  },
  'order-code': {
    looksAt: 'parts list, label, and what the device says by itself',
    how: 'written',
    restsOn: ['order code'],
    lasts: 'stands',
    since: '',
  },
  'rack-codes': {
    looksAt: 'the order code on the label of each slot, against the project’s',
    how: 'written',
    restsOn: ['codes of its rack'],
    lasts: 'stands',
    since: '',
  },
  firmware: {
    looksAt: 'the version that was found, against the relation that is asked for; both have to be versions',
    how: 'written',
    restsOn: ['firmware'],
    lasts: 'stands',
    since: '',
  },
  'names-equal': {
    looksAt: 'the name read in the device and in each place, against the planned one, letter for letter',
    how: 'written',
    restsOn: ['names'],
    lasts: 'stands',
    since: '',
  },
  'mac-known': {
    looksAt: 'the hardware address of the line-up, against the one on the label, in one notation',
    how: 'written',
    restsOn: ['hardware address'],
    lasts: 'stands',
    since: '',
  },
  identified: {
    looksAt: 'every other device that may have its address: elsewhere, without power, or its lead out',
    how: 'written',
    restsOn: ['present address', 'who else has its address'],
    lasts: 'moment',
    since: '',
  },
  'units-behind': {
    looksAt: 'every unit that is planned behind it; each has to have a number of its own and answer',
    how: 'asks',
    restsOn: [...AT_ITS_ADDRESS, 'what hangs behind it'],
    lasts: 'stands',
    since: '',
  },
  'row-answers': {
    looksAt: 'each number of the row, what answers there against its order code, and the number after the last',
    how: 'asks',
    restsOn: ['plant or bench', 'way in', 'unit id', 'order code'],
    lasts: 'stands',
    since: '',
  },
  'text-arrives': {
    looksAt: 'the text that comes at its port, against what the scanned tag says',
    how: 'asks',
    restsOn: ['plant or bench', 'way in', 'text port', 'what the tag says'],
    lasts: 'stands',
    since: '',
  },
  'shows-planned': {
    looksAt: 'address, mask and gateway as its menu shows them, against the plan',
    how: 'written',
    restsOn: ['planned address', 'subnet'],
    lasts: 'stands',
    since: 'its last wait',
  },
  'relay-answers': {
    looksAt: 'who answers at the address of what it hangs behind',
    how: 'asks',
    restsOn: ['plant or bench', 'way in'],
    lasts: 'stands',
    since: '',
  },
  'relay-firmware': {
    looksAt: 'the firmware of its controller, against what it asks for',
    how: 'written',
    restsOn: ['firmware of what it hangs on'],
    lasts: 'stands',
    since: '',
  },
  'nodes-listed': {
    looksAt: 'every planned node in the list of the search, and no other',
    how: 'written',
    restsOn: ['node', 'way in'],
    lasts: 'stands',
    since: 'the search of this stop, which has to be done',
  },
  'served-verified': {
    looksAt: 'the last thing seen of each device that it talks to, against its planned address or number',
    how: 'written',
    restsOn: ['whom it talks to'],
    lasts: 'stands',
    since: '',
  },
  'controller-sees': {
    looksAt: 'its own list of devices, against those that it is to talk to',
    how: 'written',
    restsOn: ['whom it talks to'],
    lasts: 'stands',
    since: 'the download of this stop, which has to be done',
  },
  backups: { looksAt: 'two different backups written down', how: 'written', restsOn: [], lasts: 'stands', since: '' },
  'before-picture': {
    looksAt: 'the before-picture: who answers, field devices as listed',
    how: 'written',
    restsOn: [],
    lasts: 'moment',
    since: 'a day, and before the old one is off',
  },
  returned: {
    looksAt: 'the picture afterwards, against the before-picture',
    how: 'written',
    restsOn: [],
    lasts: 'moment',
    since: 'the last step of this stop that changed something',
  },
}

/** What a check about these devices rests on as things are. */
export function restsOf(job: Job, record: WalkRecord, check: CheckId, devices: readonly Device[]): Rests {
  const rests: Record<string, string> = { check, devices: devices.map(({ id }) => id).join(' ') }
  for (const name of checkFacts[check].restsOn)
    rests[name] = devices.map((device) => restings[name]({ job, record, device })).join(' | ')
  return rests
}

/** The first thing that a check rested on and that is another one now, in a sentence; `undefined` while it holds. */
export function changedSince(job: Job, record: WalkRecord, rests: Rests): string | undefined {
  const check = rests.check
  if (check === undefined || !(check in checkIds)) return undefined
  const ids = (rests.devices ?? '').split(' ').filter((id) => id !== '')
  const devices = ids.flatMap((id) => tagged(job, id) ?? [])
  if (devices.length < ids.length) return 'a device that it was about is gone'
  const now = restsOf(job, record, check as CheckId, devices)
  // What an older program did not keep is not held against it.
  const name = Object.keys(now).find((each) => rests[each] !== undefined && rests[each] !== now[each])
  return name === undefined ? undefined : `${name} changed from "${rests[name]}" to "${now[name]}"`
}

/** A step as it stands now: a check that passed and rests on something that changed has not passed any more. */
export function asItStands(job: Job, record: WalkRecord, step: StepRecord): StepRecord {
  if (step.state !== 'done' || step.rests === null || isOver(record, step)) return step
  const changed = changedSince(job, record, step.rests)
  return changed === undefined
    ? step
    : { ...step, state: 'unexpected', note: `Passed before; ${changed} since. Check it again.` }
}

/** Whether a check of the moment is behind: something after it in its stop was done. */
function isOver(record: WalkRecord, { stepKey, at, rests }: StepRecord): boolean {
  const check = rests?.check
  if (check === undefined || !(check in checkIds) || checkFacts[check as CheckId].lasts === 'stands') return false
  const stop = stopOfKey(stepKey)
  return record.steps.some((each) => each.stepKey !== stepKey && each.at > at && stopOfKey(each.stepKey) === stop)
}

const stopOfKey = (stepKey: string) => stepKey.slice(0, stepKey.indexOf(' / '))

const tagged = (job: Job, id: string | null) => job.devices.find((each) => each.id === id)
const factText = (record: WalkRecord, { id }: Pick<Device, 'id'>, setting: string) =>
  latestFact(record, id, setting)?.text ?? ''
const addressText = (at: ReturnType<typeof presentOf>) => (at ? formatIpv4(at.address) : '')
const standing = (device: Device) =>
  [
    device.tag,
    portOf(device)?.address ?? '',
    device.unitId ?? '',
    device.nodes[0]?.node ?? '',
    device.textPort ?? '',
  ].join(' ')

/** Address and port of what a device is reached through. */
function wayIn(job: Job, device: Device): string {
  const relay = nearestWithAddress(job, tagged(job, device.behindId))
  const port = relay && portOf(relay)
  return port ? `${port.address}:${port.tcpPort}` : ''
}

/** Who may be at the present address of a device, with power or not. */
function othersAt(job: Job, record: WalkRecord, device: Device): string {
  const own = presentOf(job, record, device)?.address
  return job.devices
    .filter((each) => each.id !== device.id && portOf(each))
    .flatMap((each) => {
      const at = presentOf(job, record, each)?.address
      if (at !== undefined && at !== own) return []
      const power = factText(record, each, 'power') || (isGroupLive(job, record, groupOf(each)) ? 'on' : 'off')
      return [`${each.tag} ${power} ${factText(record, each, LEAD_SETTING)}`]
    })
    .join('; ')
}
