import { formatIpv4, parseIpv4 } from '@calm/core/address'
import type { Job } from '@calm/core/job'
import {
  hasReturned,
  laptopSees,
  portOf,
  presentOf,
  startUpSetting,
  type StepRecord,
  type WaitRecord,
  type WalkStep,
  waitsSetOffBy,
  watchedAddress,
} from '@calm/core/procedure'
import { laptopState } from '../laptop'
import type { LiveContext } from '../live'
import { addFact, requireNotHeld, saveWait, settleStep, type Store } from '../store'
import { walkSteps } from '../db'
import { findStep, placeOn, walkNow, walkWithin } from './walkNow'
import { portsOf } from './checks'
import { isInsideJob } from './insideJob'
import { probe } from './probe'

/** Who writes down what the program saw by itself. */
const PROGRAM = 'Calm Handshake'
const LOOK_MS = 300
/** Tries after the start-up time before a device counts as missing, and the time between them. */
const TRIES_AFTER = 5
const BETWEEN_TRIES_MS = 2_000

/** A wait is over: for everybody who looks at the job. */
export interface Ring {
  readonly stepKey: string
  readonly say: string
  readonly missing: boolean
}

/**
 * Looks after running waits. They lie in the database, so they go on after a reload or a restart: the old and the new
 * address are looked at until the device has been seen to go and to come back, and the first answer rings.
 */
export class WaitWatcher {
  readonly #listeners = new Set<(jobId: string, ring: Ring) => void>()
  readonly #lastTry = new Map<string, number>()
  #timer: NodeJS.Timeout | undefined
  #looking: Promise<void> = Promise.resolve()
  #busy = false

  constructor(
    readonly store: Store,
    readonly jobOf: (jobId: string) => Promise<Job>,
    readonly context: LiveContext,
  ) {}

  start(): void {
    this.#timer = setInterval(() => {
      if (this.#busy) return
      this.#busy = true
      this.#looking = this.look()
        .catch(() => undefined)
        .finally(() => (this.#busy = false))
    }, LOOK_MS)
    this.#timer.unref()
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer)
    await this.#looking
  }

  onRing(listener: (jobId: string, ring: Ring) => void): () => void {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }

  /** Begins a wait. One that runs already goes on: its time does not start from the top. */
  async begin(who: string, job: Job, stepKey: string): Promise<WaitRecord> {
    const { stop, step, record } = placeOn(job.id, await walkNow(this.store, job), stepKey)
    const running = record.steps.find((each) => each.stepKey === stepKey && each.state === 'waiting')?.wait
    if (running && running.rangAt === null) return running
    requireNotHeld({ stop, step })
    const device = job.devices.find((each) => each.id === step.deviceId)
    const present = device && presentOf(job, record, device)
    const planned = device && portOf(device)
    const wait: WaitRecord = {
      startedAt: this.context.clock(),
      // On the bench things may start faster than real ones.
      seconds: job.mode === 'bench' ? Math.ceil(step.seconds / (this.context.bench?.laptop.speed ?? 1)) : step.seconds,
      watch: step.step.watch ?? null,
      oldAddress: present ? formatIpv4(present.address) : '',
      newAddress: planned?.address ?? '',
      port: planned?.tcpPort ?? 502,
      seenGoneAt: null,
      backAt: null,
      triesAfter: 0,
      rangAt: null,
    }
    await this.store.write(who, async (tx) => {
      await saveWait(tx, job.id, stepKey, wait)
      await tx.log(job.id, `Waiting: ${step.step.say}`, { seconds: step.seconds, watch: wait.watch })
    })
    return wait
  }

  /**
   * Begins the waits that a step sets off: power that went on, a setting that was written, the last press of a row.
   * Nobody presses a clock that has begun to run.
   */
  async beginAfter(who: string, job: Job, stepKey: string): Promise<void> {
    const { stop, step } = placeOn(job.id, await walkNow(this.store, job), stepKey)
    for (const wait of waitsSetOffBy(stop, step)) await this.begin(who, job, wait.key)
  }

  /** One round over everything that waits. */
  async look(): Promise<void> {
    const rows = await this.store.read((manager) => manager.find(walkSteps, { where: { state: 'waiting' } }))
    for (const row of rows) {
      if (row.wait === null) continue
      const job = await this.jobOf(row.jobId).catch(() => undefined)
      if (job) await this.#lookAt(job, { ...row, wait: JSON.parse(row.wait), rests: null } as StepRecord)
    }
  }

  async #lookAt(job: Job, record: StepRecord): Promise<void> {
    const { wait, stepKey } = record
    if (!wait || wait.rangAt !== null) return
    const { stops, record: walk } = await walkNow(this.store, job)
    const found = findStep(stops, stepKey)
    const now = this.context.clock()
    const passed = (now - wait.startedAt) / 1000
    const over = passed >= wait.seconds
    const address = watchedAddress(wait)
    if (!found) return
    if (wait.watch === null) {
      if (over) await this.#ring(job, stepKey, wait, `${wait.seconds} s are over.`, 'done')
      return
    }
    const elsewhere = movedMeanwhile(job, found.step.deviceId, wait)
    if (elsewhere !== undefined) return this.#ring(job, stepKey, wait, elsewhere, 'unexpected')
    // Where nobody can look the time is over, and nothing was seen: parked, never done.
    const cannot = !parseIpv4(address).ok
      ? 'no address is known for it'
      : job.mode === 'plant' && !isInsideJob(job, walk, address)
        ? `${address} is in no network of this job`
        : laptopSees(await laptopState(job.mode, this.context.bench), address)
          ? undefined
          : `the laptop has no link in the subnet of ${address}`
    if (cannot !== undefined) {
      if (over) await this.#ring(job, stepKey, wait, `${wait.seconds} s are over. Nobody looked: ${cannot}.`, 'parked')
      return
    }
    if (!this.#mayTry(stepKey, now, over)) return
    const device = job.devices.find((each) => each.id === found.step.deviceId)
    const seen = await probe(this.context, job.mode, address, portsOf(device), 400)
    if (wait.watch === 'gone') {
      if (!seen.answers) await this.#ring(job, stepKey, wait, `Nobody answers at ${address} any more.`, 'done')
      else if (over) await this.#miss(job, stepKey, wait, `It still answers at ${address}.`)
      return
    }
    const gone = wait.seenGoneAt ?? (seen.answers ? null : now)
    const serves = seen.ports.some(({ connection }) => connection === 'open')
    if (hasReturned(wait, { answers: seen.answers, serves, over })) {
      const took = Math.round((this.context.clock() - wait.startedAt) / 100) / 10
      const say = `Back at ${address} after ${took} s${serves ? '.' : ', every port looked at is closed.'}`
      const back = { ...wait, backAt: this.context.clock() }
      await this.#ring(job, stepKey, back, say, 'done', found.step, serves ? took : undefined)
      return
    }
    if (over && !seen.answers)
      return this.#miss(
        job,
        stepKey,
        { ...wait, seenGoneAt: gone },
        `Nothing answers at ${address} after ${Math.round(passed)} s and ${wait.triesAfter + 1} tries.`,
      )
    if (gone !== wait.seenGoneAt)
      await this.store.write(PROGRAM, (tx) => saveWait(tx, job.id, stepKey, { ...wait, seenGoneAt: gone }))
  }

  /** Before the time is over every round, afterwards with pauses: the tries must be apart. */
  #mayTry(stepKey: string, now: number, over: boolean): boolean {
    const last = this.#lastTry.get(stepKey) ?? 0
    if (over && now - last < BETWEEN_TRIES_MS) return false
    this.#lastTry.set(stepKey, now)
    return true
  }

  async #miss(job: Job, stepKey: string, wait: WaitRecord, say: string): Promise<void> {
    const triesAfter = wait.triesAfter + 1
    if (triesAfter >= TRIES_AFTER)
      return this.#ring(job, stepKey, { ...wait, triesAfter }, `Missing. ${say}`, 'unexpected')
    await this.store.write(PROGRAM, (tx) => saveWait(tx, job.id, stepKey, { ...wait, triesAfter }))
  }

  async #ring(
    job: Job,
    stepKey: string,
    wait: WaitRecord,
    say: string,
    state: 'done' | 'unexpected' | 'parked',
    step?: WalkStep,
    took?: number,
  ): Promise<void> {
    const rang = { ...wait, rangAt: this.context.clock() }
    await this.store.write(PROGRAM, async (tx) => {
      await saveWait(tx, job.id, stepKey, rang)
      const place = placeOn(job.id, await walkWithin(tx, job.id), stepKey)
      await settleStep(tx, place, { state, note: say, rang: true })
      // What was measured teaches how long its kind takes.
      if (step?.deviceId && took !== undefined && step.step.seconds === 'start-up')
        await addFact(tx, job.id, {
          deviceId: step.deviceId,
          setting: startUpSetting(job.mode),
          standing: 'verified',
          text: `${took} s`,
          how: 'read-live',
        })
    })
    for (const listener of this.#listeners) listener(job.id, { stepKey, say, missing: state === 'unexpected' })
  }
}

/** Why what is waited for is not what is planned any more; `undefined` while it is. */
function movedMeanwhile(job: Job, deviceId: string | null, { watch, newAddress }: WaitRecord): string | undefined {
  const device = job.devices.find(({ id }) => id === deviceId)
  const planned = device && portOf(device)?.address
  if (watch !== 'back-at-planned' || !planned || planned === newAddress) return undefined
  return `${device.tag} is planned at ${planned} now; it was waited for at ${newAddress}. Begin the wait again.`
}
