import { byMatter, severities } from '../findings'
import { addressPlanOf, deviceOf, type Device, type Handshake, type Job, type LadderOf } from '../job'
import { rungs, type Ladder, type RungOnLadder } from '../ladder'
import { checkLineUp, standingFindings } from '../lineUp'
import { checkPoints } from '../points'
import { asItStands, openRuns, type StepRecord, type WalkRecord } from '../procedure'
import { threeFacts, type ThreeFacts } from '../checks'
import { ledgerBlocks, type LedgerEntry } from './ledger'

/** What readiness counts. Each kind has one line in `openKinds`. */
export type OpenKind = keyof typeof openKinds

/** Something that stands against hand-over. */
export interface OpenPoint {
  readonly kind: OpenKind
  /** One sentence: what it is, and whom it concerns. */
  readonly say: string
}

/** What was decided with a reason, or let stand: it does not keep hand-over shut, and the record is not whole with it. */
export interface KnownPoint {
  readonly say: string
}

/** What open points are looked for in. */
export interface OpenSource {
  readonly job: Job
  readonly walk: WalkRecord
  readonly ladders: readonly { readonly handshake: Handshake; readonly ladder: Ladder }[]
  readonly ledger: readonly LedgerEntry[]
  readonly ladderFor: LadderOf
}

/** The rule under which a device that stands in no handshake is let stand, with a reason. */
export const NO_HANDSHAKE = 'hand-over.no-handshake'

interface OpenKindFacts {
  /** What is counted, in a few words. */
  readonly counts: string
  readonly find: (source: OpenSource) => readonly string[]
}

/** Everything that is counted, in the order in which it is told. */
export const openKinds = {
  ledger: {
    counts: 'forced values and temporary things that were not seen back',
    find: ({ ledger }) => ledgerBlocks(ledger),
  },
  'no-handshake-yet': {
    counts: 'a job without a handshake',
    find: ({ ladders }) => (ladders.length === 0 ? ['There is no handshake yet.'] : []),
  },
  'at-odds': { counts: 'handshakes with a rung at odds', find: handshakesAtOdds },
  rung: {
    counts: 'each rung of each handshake that applies and is neither proven nor parked, every point of Reading counted',
    find: rungsOpen,
  },
  device: {
    counts: 'findings that will not work or are unsafe, labels that are not as planned, points that cannot be read',
    find: devicesAtOdds,
  },
  'in-no-handshake': { counts: 'devices of which nothing is compared', find: outsideOfAll },
  wait: {
    counts: 'waits that run',
    find: ({ job, walk }) => stepsIn(job, standing({ job, walk }), 'waiting', 'Still waited for'),
  },
  unexpected: {
    counts: 'steps at which something else was seen, and checks whose ground has changed',
    find: ({ job, walk }) =>
      stepsIn(job, standing({ job, walk }), 'unexpected', 'Not as it should be, in First contact'),
  },
  run: {
    counts: 'runs that were begun and are not finished',
    find: ({ job, walk }) =>
      openRuns(job, walk).map(({ run, device }) => `Begun and not finished: ${run.name}, ${device.tag}.`),
  },
  question: { counts: 'what was asked of others and is not answered', find: questionsOpen },
} satisfies Readonly<Record<string, OpenKindFacts>>

function outsideOfAll({ job }: OpenSource): readonly string[] {
  const outside = inNoHandshake(job).filter(({ id, tag }) => !isLetStand(job, id, tag))
  return outside.length === 0 || job.handshakes.length === 0
    ? []
    : [`In no handshake, so nothing is compared: ${names(outside.map(({ tag }) => tag))}.`]
}

function questionsOpen({ job }: OpenSource): readonly string[] {
  const open = job.requests.filter(({ answeredOn }) => answeredOn === null)
  return open.length === 0
    ? []
    : [`Asked of others and not answered: ${names(open.map(({ what, toWhom }) => `${what} (${toWhom})`))}.`]
}

/** Everything that stands against hand-over, kind by kind; empty when nothing does. The sign-off itself is not asked for. */
export const openPointsOf = (source: OpenSource): readonly OpenPoint[] =>
  (Object.keys(openKinds) as OpenKind[]).flatMap((kind) => openKinds[kind].find(source).map((say) => ({ kind, say })))

/** What somebody decided to leave as it is: parked rungs and steps, findings and devices let stand. */
export function knownPointsOf({ job, walk, ladders }: OpenSource): readonly KnownPoint[] {
  const parked = ladders.flatMap(({ handshake, ladder }) =>
    ladder.rungs
      .filter(({ state }) => state === 'parked')
      .map(({ name, because }) => ({ say: `${handshake.name}, ${name} parked: ${because}` })),
  )
  const steps = walk.steps
    // A wait that was over while nobody could look is not what somebody decided.
    .filter(({ state, wait }) => state === 'overridden' || (state === 'parked' && !wait?.rangAt))
    .map((step) => ({ say: `First contact, ${whomOf(job, step)} ${step.state}: ${step.note} (${step.who})` }))
  const stood = job.acceptances.map(({ found, reason, who }) => ({ say: `Let stand, ${found}: ${reason} (${who})` }))
  return [...parked, ...steps, ...stood]
}

/** What of one handshake keeps it from being signed: every rung before the sign-off that applies and is not decided. */
export const openRungsOf = (ladder: Ladder): readonly RungOnLadder[] =>
  ladder.rungs.filter(
    ({ rung, state }) => rung !== 'handed-over' && state !== 'proven' && state !== 'not-apply' && state !== 'parked',
  )

function handshakesAtOdds({ ladders }: OpenSource): readonly string[] {
  const odds = ladders.flatMap(({ handshake, ladder }) => {
    const at = ladder.rungs.filter(({ state }) => state === 'at-odds').map(({ name }) => name)
    return at.length > 0 ? [`${handshake.name} (${at.join(', ')})`] : []
  })
  return odds.length > 0 ? [`At odds: ${names(odds)}.`] : []
}

/** Rung by rung who lacks it; of a rung that asks for every point, how many points. */
function rungsOpen({ ladders }: OpenSource): readonly string[] {
  return rungs.flatMap(({ id, name }, index) => {
    const open = ladders.flatMap(({ handshake, ladder }) => {
      const rung = openRungsOf(ladder).find((each) => each === ladder.rungs[index])
      // What is at odds is told by itself.
      return rung && rung.state !== 'at-odds' ? [`${handshake.name}${pointsText(rung)}`] : []
    })
    return id === 'handed-over' || open.length === 0 ? [] : [`${name} not yet proven: ${names(open)}.`]
  })
}

function pointsText({ points }: RungOnLadder): string {
  const proven = points.filter(({ state }) => state === 'proven').length
  return points.length > 1 ? ` (${proven} of ${points.length} points)` : ''
}

/** Devices that are not as planned: findings that stand in the way, labels that differ, evidence against them. */
function devicesAtOdds({ job, walk, ladderFor }: OpenSource): readonly string[] {
  const found = checkLineUp(job, addressPlanOf(job, [], ladderFor)).filter(
    ({ severity }) => severities[severity].rank < severities['worth-knowing'].rank,
  )
  const matters = byMatter(standingFindings(found, job.acceptances).open)
  const findings = matters.map(([{ why }]) => `Line-up: ${why}`)
  const labels = job.devices.flatMap((device) =>
    threeFacts(walk, device)
      .filter(({ state }) => state === 'differs')
      .map((facts) => `${device.tag}, ${sayThree(facts)}.`),
  )
  const points = job.handshakes.flatMap((handshake) =>
    checkPoints(job, handshake)
      .findings.filter(({ severity }) => severity === 'will-not-work')
      .map(({ say }) => `Data path, ${handshake.name}: ${say}`),
  )
  return [...findings, ...labels, ...points]
}

/** Steps as they stand now: a check whose ground has changed has not passed. */
const standing = ({ job, walk }: Pick<OpenSource, 'job' | 'walk'>) =>
  walk.steps.map((step) => asItStands(job, walk, step))

const sayThree = ({ what, plan, label, says }: ThreeFacts) =>
  [
    `${what.toLowerCase()}: ${plan === '' ? 'nothing planned' : `planned "${plan}"`}`,
    ...(label === '' ? [] : [`on its label "${label}"`]),
    ...(says === '' ? [] : [`it says "${says}"`]),
  ].join(', ')

/**
 * Devices that nobody compares anything with: at no end of a handshake, nor on the way of one. A module in a rack goes
 * with its head.
 */
export function inNoHandshake(job: Job): readonly Device[] {
  const inOne = new Set<string>()
  for (const { controllerId, deviceId } of job.handshakes)
    for (const end of [controllerId, deviceId]) {
      let current = deviceOf(job, end)
      while (current && !inOne.has(current.id)) {
        inOne.add(current.id)
        current = current.behindId === null ? undefined : deviceOf(job, current.behindId)
      }
    }
  const racks = new Set(job.lines.filter(({ medium }) => medium === 'backplane').map(({ id }) => id))
  const headOf = ({ behindId, nodes }: Device) =>
    nodes.some(({ lineId }) => racks.has(lineId)) ? (behindId ?? undefined) : undefined
  return job.devices.filter((device) => !inOne.has(device.id) && !inOne.has(headOf(device) ?? ''))
}

const isLetStand = (job: Job, deviceId: string, tag: string) =>
  job.acceptances.some((each) => each.rule === NO_HANDSHAKE && each.subjectId === deviceId && each.found === tag)

function stepsIn(job: Job, steps: readonly StepRecord[], state: StepRecord['state'], words: string): readonly string[] {
  const whom = steps
    .filter((step) => step.state === state && !(state === 'waiting' && step.wait?.rangAt))
    .map((step) => whomOf(job, step))
  return whom.length === 0 ? [] : [`${words}: ${names([...new Set(whom)])}.`]
}

/** The device of a step, by its key; of a step of several, or of none, the stop. */
const whomOf = (job: Job, { stepKey }: StepRecord): string =>
  job.devices.find(({ id }) => stepKey.includes(`/ ${id} `))?.tag ?? 'a step of several devices'

const MOST_NAMED = 8

/** Names in one line; of very many the first, and how many more. */
const names = (all: readonly string[]): string =>
  all.length <= MOST_NAMED
    ? all.join(', ')
    : `${all.slice(0, MOST_NAMED).join(', ')} and ${all.length - MOST_NAMED} more`
