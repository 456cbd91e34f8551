import { hexText, type Rejection } from '@calm/core/modbus'
import { AwakeTimer } from './awakeTimer'
import { openWithin } from './opening'
import type { Outcome } from './outcome'
import type { Framer, Protocol, Question } from './protocol'
import { Silence } from './silence'
import type { OpenTransport, Transport } from './transport'

export interface ExchangeTiming {
  readonly connectTimeoutMs: number
  readonly responseTimeoutMs: number
  /** Closed when nobody asked for this long, so that a device's last connection is not held for nothing. */
  readonly idleMs: number
}

interface Waiting<A> {
  readonly ask: A
  readonly signal: AbortSignal | undefined
  readonly settle: (outcome: Outcome, inDoubt?: boolean) => void
}

interface InFlight {
  readonly question: Question
  readonly bytes: string
  readonly start: number
  readonly timer: AwakeTimer
  readonly settle: (outcome: Outcome, inDoubt?: boolean) => void
  /** Whether the line was doubtful when it was sent. */
  readonly inDoubt: boolean
  readonly forget: () => void
  /** What arrived meanwhile and was not the answer; told when no answer comes. */
  foreign: Rejection | undefined
  /** Whoever asked does not wait any more; the line waits, so that the answer is not taken for another. */
  isGivenUp: boolean
}

/** How many requests may wait on one channel; more are refused, so that a slow device cannot fill the memory. */
const QUEUE_LIMIT = 64
/** Whether there is nobody to ask any more. */
const isOver = ({ kind }: Outcome): boolean => kind === 'cancelled' || kind === 'no-connection'

/** How often a doubtful answer is asked again before it is given up. */
const CONFIRM_ROUNDS = 3
/** An answer is owed for so many timeouts after its question; later ones are learnt. Common practice, no source. */
const LATE_TIMEOUTS = 5
/** What comes later than this after the last question was no answer to it, ms. */
const LONGEST_LATE_MS = 10_000
const IN_DOUBT =
  'Answers on this line came late, twice or unasked: what came could not be told from the answer to another question.'
/** A line on which something came that belongs to nobody is quiet again after so long. Common practice, no source. */
const QUIET_AGAIN_MS = 10_000
const NOTHING = { sent: '', received: '', milliseconds: 0 }

/**
 * One channel with a queue: one request after the other, whatever it goes over and whatever is said on it. What arrived
 * before a request was sent cannot be its answer: it is read, dropped and counted first. A late, foreign or malformed
 * answer never becomes a value.
 */
export class Exchange<A> {
  readonly #queue: Waiting<A>[] = []
  #transport: Transport | undefined
  #framer: Framer
  #inFlight: InFlight | undefined
  #opening: Transport | undefined
  readonly #silence = new Silence()
  #gap: AwakeTimer | undefined
  /** A frame that had begun to arrive before the request was sent. */
  #staleFrame = false
  /** Nothing was understood on this connection yet: what comes may be a greeting. */
  #mayGreet = false
  /** Something that is no frame came first, and nothing was understood since. */
  #hasGreeted = false
  #idle: NodeJS.Timeout | undefined
  #closed = false
  /** Answers that came too late, too early, or belonged to nobody. */
  droppedCount = 0
  /** Questions of which it could not be told whether what came was their answer. */
  doubtfulCount = 0
  /** Whether an answer may be that of another question. */
  #isDoubtful = false
  /** When something came last that belongs to nobody. */
  #disturbedAt = -Infinity
  /** How often it became so. */
  #doubts = 0
  /** When the last question was sent that nobody answered in time. */
  #ranOutSent = 0
  /** Till then an answer may come that is owed to an earlier question. */
  #owedUntil = 0
  /** How long an answer was seen to take at most, ms. */
  #lateMs = 0

  constructor(
    readonly open: OpenTransport,
    readonly protocol: Protocol<A>,
    readonly timing: ExchangeTiming,
  ) {
    this.#framer = protocol.framer()
  }

  /**
   * Asks, and where the line is doubtful asks again with another question between: an answer counts only when it came
   * twice and the answer between fitted its own question. What cannot be told is no value, and says so.
   */
  async ask(ask: A, signal?: AbortSignal): Promise<Outcome> {
    const { marker } = this.protocol
    let { outcome, inDoubt } = await this.#askOnce(ask, signal)
    if (!marker || !inDoubt || outcome.kind !== 'answered') return outcome
    for (let round = 0; round < CONFIRM_ROUNDS; round += 1) {
      const doubts = this.#doubts
      const before = outcome.kind === 'answered' ? outcome.trace.received : undefined
      const between = await this.#askOnce(marker(ask), signal)
      if (isOver(between.outcome)) return between.outcome
      ;({ outcome, inDoubt } = await this.#askOnce(ask, signal))
      if (isOver(outcome)) return outcome
      const isInStep = between.outcome.kind === 'answered' && this.#doubts === doubts
      if (isInStep && outcome.kind === 'answered' && outcome.trace.received === before) {
        // In step now; what is still owed would come between later questions, so till then each is asked like this.
        if (performance.now() >= this.#owedUntil) this.#isDoubtful = false
        return outcome
      }
    }
    this.doubtfulCount += 1
    return { kind: 'no-answer', reason: IN_DOUBT, trace: outcome.trace }
  }

  /** Something came that belongs to nobody, or did not come in time: the next answer may be that of another question. */
  #doubt(by: 'frame' | 'silence'): void {
    if (!this.protocol.marker) return
    this.#isDoubtful = true
    if (by === 'frame') this.#disturbedAt = performance.now()
    this.#doubts += 1
    const now = performance.now()
    // How late answers are on this line is learnt upwards: from the last question that ran out to what came unasked.
    const late = now - this.#ranOutSent
    if (!this.#inFlight && this.#ranOutSent > 0 && late < LONGEST_LATE_MS) this.#lateMs = Math.max(this.#lateMs, late)
    const longest = Math.max(this.#lateMs, LATE_TIMEOUTS * this.timing.responseTimeoutMs)
    const asked = this.#inFlight?.start ?? now - this.timing.responseTimeoutMs
    this.#owedUntil = Math.max(this.#owedUntil, asked + longest)
  }

  #askOnce(ask: A, signal?: AbortSignal): Promise<{ readonly outcome: Outcome; readonly inDoubt: boolean }> {
    return new Promise((done) => {
      const settle = (outcome: Outcome, inDoubt = false) => done({ outcome, inDoubt })
      if (this.#closed || signal?.aborted) return settle({ kind: 'cancelled', trace: NOTHING })
      if (this.#queue.length >= QUEUE_LIMIT) {
        const reason = `${QUEUE_LIMIT} requests wait for this device already.`
        return settle({ kind: 'no-answer', reason, trace: NOTHING })
      }
      this.#queue.push({ ask, signal, settle })
      this.#next()
    })
  }

  /** Ends the connection; whatever waits is told that it is not asked any more. */
  close(): void {
    this.#closed = true
    clearTimeout(this.#idle)
    this.#silence.stop()
    this.#gap?.stop()
    for (const waiting of this.#queue.splice(0)) waiting.settle({ kind: 'cancelled', trace: NOTHING })
    this.#finish({ kind: 'cancelled', trace: NOTHING })
    this.#opening?.close()
    this.#transport?.close()
    this.#transport = undefined
  }

  #next(): void {
    if (this.#inFlight || this.#opening || this.#closed) return
    const waiting = this.#queue[0]
    if (!waiting) return this.#restLater()
    if (waiting.signal?.aborted) {
      this.#queue.shift()
      waiting.settle({ kind: 'cancelled', trace: NOTHING })
      return this.#next()
    }
    if (!this.#transport) return this.#connect()
    this.#silence.whenOver(
      () => this.#next(),
      () => this.#sendFirst(),
    )
  }

  #sendFirst(): void {
    const waiting = this.#transport && !this.#inFlight ? this.#queue[0] : undefined
    if (!this.#transport || !waiting || waiting.signal?.aborted) return this.#next()
    this.#queue.shift()
    this.#send(this.#transport, waiting)
  }

  #send(transport: Transport, { ask, signal, settle }: Waiting<A>): void {
    const question = this.protocol.question(ask)
    const timer = new AwakeTimer(this.timing.responseTimeoutMs, () => this.#runOut())
    const cancel = () => this.#giveUp()
    signal?.addEventListener('abort', cancel, { once: true })
    const forget = () => signal?.removeEventListener('abort', cancel)
    this.#staleFrame = this.#framer.pendingCount > 0
    const start = performance.now()
    const bytes = hexText(question.bytes)
    const inDoubt = this.#isDoubtful
    this.#inFlight = { question, bytes, start, timer, settle, forget, inDoubt, foreign: undefined, isGivenUp: false }
    transport.send(question.bytes)
  }

  /** Nobody waits for the answer any more. Where it would look like that of the next question, it is awaited all the same. */
  #giveUp(): void {
    const inFlight = this.#inFlight
    const outcome: Outcome = { kind: 'cancelled', trace: this.#trace('') }
    if (!inFlight || !this.protocol.lateLooksRight) return this.#finish(outcome)
    inFlight.isGivenUp = true
    inFlight.settle(outcome)
  }

  #runOut(): void {
    const foreign = this.#inFlight?.foreign
    const trace = this.#trace('')
    if (foreign) {
      // Nothing was understood on this connection: the next question gets a new one.
      if (this.#hasGreeted) this.#drop()
      return this.#finish({ kind: 'rejected', rejection: foreign, trace })
    }
    const reason = `Nothing answered within ${this.timing.responseTimeoutMs} ms.`
    if (this.protocol.lateLooksRight)
      this.#silence.keep(Math.max(this.timing.responseTimeoutMs, this.#lateMs - this.timing.responseTimeoutMs))
    this.#ranOutSent = this.#inFlight?.start ?? 0
    this.#doubt('silence')
    this.#finish({ kind: 'no-answer', reason, trace })
  }

  #receive(bytes: Uint8Array): void {
    this.#silence.keep(this.protocol.quietMs)
    this.#gap?.stop()
    if (this.protocol.gapMs !== undefined)
      this.#gap = new AwakeTimer(this.protocol.gapMs, () => this.#take(this.#framer.silence?.() ?? []))
    this.#dropShortGreeting(bytes)
    this.#take(this.#framer.push(bytes))
  }

  /** A few bytes stand before what begins like the answer that is waited for: they greeted, and belong to no frame. */
  #dropShortGreeting(bytes: Uint8Array): void {
    const head = this.#inFlight?.question.bytes.subarray(0, 4)
    if (!this.#mayGreet || this.#framer.pendingCount === 0 || !head || head.length < 4) return
    if (!head.every((byte, at) => bytes[at] === byte)) return
    this.#mayGreet = false
    this.#staleFrame = false
    this.#framer = this.protocol.framer()
    this.droppedCount += 1
  }

  #take(chunks: ReturnType<Framer['push']>): void {
    for (const chunk of chunks) {
      if ('broken' in chunk) {
        if (this.#isGreeting(chunk.broken)) return
        const trace = this.#trace(chunk.bytes)
        // Who greets with something else is no device of ours: it is not opened again and again for one question.
        const waiting = this.#inFlight ? undefined : this.#queue.shift()
        this.#doubt('frame')
        waiting?.settle({ kind: 'rejected', rejection: chunk.broken, trace })
        if (this.protocol.afterBroken === 'reopen') this.#drop()
        this.#finish({ kind: 'rejected', rejection: chunk.broken, trace })
        return
      }
      if (this.#staleFrame) {
        this.#staleFrame = false
        this.droppedCount += 1
        this.#doubt('frame')
        continue
      }
      this.#judge(chunk.frame)
    }
  }

  /** What a device says of itself when it is called is nobody's answer: dropped once, and the question is still open. */
  #isGreeting(broken: Rejection): boolean {
    if (!this.#mayGreet) return false
    this.#mayGreet = false
    this.#hasGreeted = true
    this.#staleFrame = false
    this.#framer = this.protocol.framer()
    this.droppedCount += 1
    // Where no answer follows it was one that makes no frame, and that is told.
    if (this.#inFlight) this.#inFlight.foreign = broken
    return true
  }

  #judge(frame: Uint8Array): void {
    this.#mayGreet = false
    this.#hasGreeted = false
    const inFlight = this.#inFlight
    if (!inFlight) {
      this.droppedCount += 1
      this.#doubt('frame')
      return
    }
    const verdict = inFlight.question.judge(frame)
    const trace = this.#trace(hexText(frame))
    switch (verdict.kind) {
      case 'answer':
        return this.#finish({ kind: 'answered', response: verdict.response, trace })
      case 'foreign':
        this.droppedCount += 1
        inFlight.foreign = verdict.rejection
        return
      case 'rejected':
        return this.#finish({ kind: 'rejected', rejection: verdict.rejection, trace })
    }
  }

  #trace(received: string) {
    const inFlight = this.#inFlight
    return {
      sent: inFlight?.bytes ?? '',
      received,
      milliseconds: inFlight ? performance.now() - inFlight.start : 0,
    }
  }

  #finish(outcome: Outcome): void {
    const inFlight = this.#inFlight
    if (!inFlight) return
    inFlight.timer.stop()
    inFlight.forget()
    this.#inFlight = undefined
    // Something wrong came first: the right answer may still come, and would look like that of the next question.
    const isStillOwed = outcome.kind === 'rejected' && this.protocol.lateLooksRight
    if (isStillOwed) this.#silence.keep(this.timing.responseTimeoutMs - outcome.trace.milliseconds)
    if (outcome.kind === 'rejected') this.#doubt('frame')
    if (!inFlight.isGivenUp) this.#tell(outcome, inFlight)
    else if (outcome.kind === 'answered') this.droppedCount += 1
    this.#next()
  }

  /**
   * Where nothing tells an answer from another one, it is told only when the silence after it was kept: a second frame
   * within it means that one of the two was not asked for. No time is lost by that: nothing is asked before either.
   */
  #tell(outcome: Outcome, { settle, inDoubt }: InFlight): void {
    if (!this.protocol.marker || outcome.kind !== 'answered') return settle(outcome, inDoubt)
    const doubts = this.#doubts
    setTimeout(() => {
      const isAlone = this.#doubts === doubts
      const unsure = this.#unsure()
      const told = unsure === '' ? outcome : { ...outcome, trace: { ...outcome.trace, unsure } }
      settle(isAlone ? told : { kind: 'no-answer', reason: IN_DOUBT, trace: outcome.trace }, inDoubt)
    }, this.protocol.quietMs)
  }

  /** Why what is read now is no proof; blank on a line that has been quiet. */
  #unsure(): string {
    if (performance.now() - this.#disturbedAt >= QUIET_AGAIN_MS) return ''
    const lost = this.doubtfulCount
    return `On this line answers came late, twice or unasked within the last ${QUIET_AGAIN_MS / 1000} s: ${this.droppedCount} dropped so far, ${lost} ${lost === 1 ? 'reading' : 'readings'} lost to doubt.`
  }

  #connect(): void {
    const start = performance.now()
    this.#framer = this.protocol.framer()
    this.#staleFrame = false
    const transport = openWithin(this.open, this.timing.connectTimeoutMs, {
      opened: () => {
        this.#opening = undefined
        this.#transport = transport
        this.#mayGreet = this.protocol.afterBroken === 'reopen'
        this.#hasGreeted = false
        this.#next()
      },
      bytes: (bytes) => this.#transport === transport && this.#receive(bytes),
      failed: (reason) => {
        this.#opening = undefined
        const trace = { sent: '', received: '', milliseconds: performance.now() - start }
        this.#queue.shift()?.settle({ kind: 'no-connection', reason, trace })
        this.#next()
      },
      closed: () => this.#transport === transport && this.#lost(),
    })
    this.#opening = transport
  }

  #lost(): void {
    this.#transport = undefined
    this.#doubt('silence')
    this.#staleFrame = false
    this.#finish({
      kind: 'closed',
      reason: 'The device closed the connection without an answer.',
      trace: this.#trace(''),
    })
  }

  #drop(): void {
    this.#transport?.close()
    this.#transport = undefined
    this.#staleFrame = false
    this.#next()
  }

  #restLater(): void {
    // Wound up again rather than made anew: this happens after every answer.
    if (this.#idle) return void this.#idle.refresh()
    this.#idle = setTimeout(() => {
      this.#idle = undefined
      if (!this.#inFlight && this.#queue.length === 0) this.#drop()
    }, this.timing.idleMs)
    this.#idle.unref()
  }
}
