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
  readonly settle: (outcome: Outcome) => void
}

interface InFlight {
  readonly question: Question
  readonly bytes: string
  readonly start: number
  readonly timer: AwakeTimer
  readonly settle: (outcome: Outcome) => void
  readonly forget: () => void
  /** What arrived meanwhile and was not the answer; told when no answer comes. */
  foreign: Rejection | undefined
  /** Whoever asked does not wait any more; the line waits, so that the answer is not taken for another. */
  isGivenUp: boolean
}

/** How many requests may wait on one channel; more are refused, so that a slow device cannot fill the memory. */
const QUEUE_LIMIT = 64
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
  #idle: NodeJS.Timeout | undefined
  #closed = false
  /** Answers that came too late, too early, or belonged to nobody. */
  droppedCount = 0

  constructor(
    readonly open: OpenTransport,
    readonly protocol: Protocol<A>,
    readonly timing: ExchangeTiming,
  ) {
    this.#framer = protocol.framer()
  }

  ask(ask: A, signal?: AbortSignal): Promise<Outcome> {
    return new Promise((settle) => {
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
    this.#inFlight = { question, bytes, start, timer, settle, forget, foreign: undefined, isGivenUp: false }
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
    if (foreign) return this.#finish({ kind: 'rejected', rejection: foreign, trace })
    const reason = `Nothing answered within ${this.timing.responseTimeoutMs} ms.`
    if (this.protocol.lateLooksRight) this.#silence.keep(this.timing.responseTimeoutMs)
    this.#finish({ kind: 'no-answer', reason, trace })
  }

  #receive(bytes: Uint8Array): void {
    this.#silence.keep(this.protocol.quietMs)
    this.#gap?.stop()
    if (this.protocol.gapMs !== undefined)
      this.#gap = new AwakeTimer(this.protocol.gapMs, () => this.#take(this.#framer.silence?.() ?? []))
    this.#take(this.#framer.push(bytes))
  }

  #take(chunks: ReturnType<Framer['push']>): void {
    for (const chunk of chunks) {
      if ('broken' in chunk) {
        const trace = this.#trace(chunk.bytes)
        // Who greets with something else is no device of ours: it is not opened again and again for one question.
        const waiting = this.#inFlight ? undefined : this.#queue.shift()
        waiting?.settle({ kind: 'rejected', rejection: chunk.broken, trace })
        if (this.protocol.afterBroken === 'reopen') this.#drop()
        this.#finish({ kind: 'rejected', rejection: chunk.broken, trace })
        return
      }
      if (this.#staleFrame) {
        this.#staleFrame = false
        this.droppedCount += 1
        continue
      }
      this.#judge(chunk.frame)
    }
  }

  #judge(frame: Uint8Array): void {
    const inFlight = this.#inFlight
    if (!inFlight) {
      this.droppedCount += 1
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
    if (!inFlight.isGivenUp) inFlight.settle(outcome)
    else if (outcome.kind === 'answered') this.droppedCount += 1
    this.#next()
  }

  #connect(): void {
    const start = performance.now()
    this.#framer = this.protocol.framer()
    this.#staleFrame = false
    const transport = openWithin(this.open, this.timing.connectTimeoutMs, {
      opened: () => {
        this.#opening = undefined
        this.#transport = transport
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
