import { setTimeout } from 'node:timers/promises'
import { LIVE_INTERVAL_MS, type LiveHop, type LiveReading } from '@calm/contract'
import type { Job } from '@calm/core/job'
import type { Kept } from '../store'
import { hopPlan, planText, readHop, type LiveContext } from './readHop'
import { readPacked, type PointReading } from './readPacked'

type Listener = (reading: LiveReading) => void

interface Watch {
  readonly listeners: Set<Listener>
  readonly stop: AbortController
  /** Requests of several points that its device refused as a whole. */
  readonly apart: Set<string>
}

/** A reading with what it belongs to, kept for a while so that evidence can name it. */
export interface KeptReading {
  readonly handshakeId: string
  readonly pointId: string
  readonly reading: LiveReading
  /** What was asked, as a text that can be compared with the plan of later. */
  readonly asked: string
}

/** How many readings are kept for evidence: of one point at two hops twice a second, more than an hour. */
const KEPT = 20_000
const HOPS: readonly LiveHop[] = ['device', 'controller']

/** Reads the hops of handshakes that somebody watches, and publishes what was read. */
export class LiveService {
  readonly #watches = new Map<string, Watch>()
  readonly #kept = new Map<number, KeptReading>()
  #sequence = 0

  constructor(
    readonly context: LiveContext,
    readonly jobs: Kept<Job>,
  ) {}

  /** Begins to read a handshake's hops, or joins those who watch it already. Returns the way to stop. */
  watch(jobId: string, handshakeId: string, listener: Listener): () => void {
    let watch = this.#watches.get(handshakeId)
    if (!watch) {
      watch = { listeners: new Set(), stop: new AbortController(), apart: new Set() }
      this.#watches.set(handshakeId, watch)
      for (const hop of HOPS) void this.#run(jobId, handshakeId, hop, watch)
    }
    const joined = watch
    joined.listeners.add(listener)
    return () => {
      joined.listeners.delete(listener)
      if (joined.listeners.size > 0) return
      joined.stop.abort()
      if (this.#watches.get(handshakeId) === joined) this.#watches.delete(handshakeId)
    }
  }

  kept(sequence: number): KeptReading | undefined {
    return this.#kept.get(sequence)
  }

  close(): void {
    for (const watch of this.#watches.values()) watch.stop.abort()
    this.#watches.clear()
  }

  async #run(jobId: string, handshakeId: string, hop: LiveHop, watch: Watch): Promise<void> {
    const { signal } = watch.stop
    while (!signal.aborted) {
      const start = performance.now()
      try {
        await this.#readOnce(jobId, handshakeId, hop, watch)
      } catch {
        // The job or the handshake is gone; whoever watches hears that from the job itself.
        return
      }
      await pause(Math.max(50, LIVE_INTERVAL_MS - (performance.now() - start)), signal)
    }
  }

  /** Every point of the handshake once, at the device in as few requests as it takes. */
  async #readOnce(jobId: string, handshakeId: string, hop: LiveHop, watch: Watch): Promise<void> {
    const job = await this.jobs.get(jobId)
    const handshake = job.handshakes.find((each) => each.id === handshakeId)
    if (!handshake) return
    const { signal } = watch.stop
    if (hop === 'device') {
      for await (const seen of readPacked(this.context, job, handshake, watch.apart, signal))
        this.#publish(handshakeId, seen, watch)
      return
    }
    for (const point of handshake.points) {
      const plan = hopPlan(job, handshake, point, hop)
      const reading = await readHop(this.context, job, hop, plan, point.decimals, signal)
      if (signal.aborted) return
      this.#publish(handshakeId, { point, plan, reading }, watch)
    }
  }

  #publish(handshakeId: string, { point, plan, reading: seen }: PointReading, { listeners }: Watch): void {
    this.#sequence += 1
    const reading: LiveReading = { ...seen, sequence: this.#sequence, pointId: point.id }
    this.#kept.set(reading.sequence, { handshakeId, pointId: point.id, reading, asked: planText(plan) })
    if (this.#kept.size > KEPT) this.#kept.delete(this.#kept.keys().next().value ?? 0)
    for (const listener of listeners) listener(reading)
  }
}

/** Waits, or ends at once when the watch is over. */
const pause = (milliseconds: number, signal: AbortSignal): Promise<void> =>
  setTimeout(milliseconds, undefined, { signal }).catch(() => undefined)
