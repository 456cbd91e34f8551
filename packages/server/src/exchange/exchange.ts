import { Socket } from 'node:net'
import {
  decodeTcpResponse,
  encodeTcpRequest,
  hexText,
  TcpFramer,
  type ModbusRequest,
  type Rejection,
  type TcpRequest,
  type TcpUnit,
} from '@calm/core/modbus'
import { AwakeTimer } from './awakeTimer'
import type { Outcome } from './outcome'
import { TransactionNumbers } from './transactionNumbers'

export interface ExchangeOptions {
  readonly host: string
  readonly port: number
  readonly connectTimeoutMs: number
  readonly responseTimeoutMs: number
  /** Closed when nobody asked for this long, so that a device's last connection is not held for nothing. */
  readonly idleMs: number
}

interface Waiting {
  readonly unit: TcpUnit
  readonly request: ModbusRequest
  readonly signal: AbortSignal | undefined
  readonly settle: (outcome: Outcome) => void
}

interface InFlight {
  readonly sent: TcpRequest
  readonly bytes: string
  readonly start: number
  readonly timer: AwakeTimer
  readonly settle: (outcome: Outcome) => void
  readonly forget: () => void
  /** What arrived meanwhile and was not the answer; told when no answer comes. */
  foreign: Rejection | undefined
}

/** How many requests may wait on one connection; more are refused, so that a slow device cannot fill the memory. */
const QUEUE_LIMIT = 64

/**
 * One Modbus TCP connection with a queue: one request after the other. An answer that comes after its time is known
 * by its transaction number and dropped; an answer from another unit, or with another form, is a rejection. What
 * arrived before a request was sent cannot be its answer: it is read, dropped and counted first. Nothing of the kind
 * ever becomes a value.
 */
export class Exchange {
  readonly #queue: Waiting[] = []
  #socket: Socket | undefined
  #framer = new TcpFramer()
  #inFlight: InFlight | undefined
  readonly #transactions: TransactionNumbers
  #connecting = false
  #sending: NodeJS.Immediate | undefined
  /** A frame that had begun to arrive before the request was sent. */
  #staleFrame = false
  #idle: NodeJS.Timeout | undefined
  #closed = false
  /** Answers that came too late, too early, or belonged to nobody. */
  droppedCount = 0

  constructor(
    readonly options: ExchangeOptions,
    random?: (end: number) => number,
  ) {
    this.#transactions = new TransactionNumbers(random)
  }

  ask(unit: TcpUnit, request: ModbusRequest, signal?: AbortSignal): Promise<Outcome> {
    return new Promise((settle) => {
      const trace = { sent: '', received: '', milliseconds: 0 }
      if (this.#closed || signal?.aborted) return settle({ kind: 'cancelled', trace })
      if (this.#queue.length >= QUEUE_LIMIT) {
        return settle({ kind: 'no-answer', reason: `${QUEUE_LIMIT} requests wait for this device already.`, trace })
      }
      this.#queue.push({ unit, request, signal, settle })
      this.#next()
    })
  }

  /** Ends the connection; whatever waits is told that it is not asked any more. */
  close(): void {
    this.#closed = true
    clearTimeout(this.#idle)
    clearImmediate(this.#sending)
    const trace = { sent: '', received: '', milliseconds: 0 }
    for (const waiting of this.#queue.splice(0)) waiting.settle({ kind: 'cancelled', trace })
    this.#finish({ kind: 'cancelled', trace })
    this.#socket?.destroy()
    this.#socket = undefined
  }

  #next(): void {
    if (this.#inFlight || this.#connecting || this.#closed) return
    const waiting = this.#queue[0]
    if (!waiting) return this.#restLater()
    clearTimeout(this.#idle)
    if (waiting.signal?.aborted) {
      this.#queue.shift()
      waiting.settle({ kind: 'cancelled', trace: { sent: '', received: '', milliseconds: 0 } })
      return this.#next()
    }
    if (!this.#socket) return this.#connect()
    this.#sendSoon()
  }

  /**
   * Sends after the chunk at hand is finished and the socket was read once more: what is there by then came before
   * the question and belongs to nobody.
   */
  #sendSoon(): void {
    if (this.#sending) return
    this.#sending = setImmediate(() => {
      this.#sending = setImmediate(() => {
        this.#sending = undefined
        const waiting = this.#socket && !this.#inFlight ? this.#queue[0] : undefined
        if (!this.#socket || !waiting || waiting.signal?.aborted) return this.#next()
        this.#queue.shift()
        this.#send(this.#socket, waiting)
      })
    })
  }

  #send(socket: Socket, { unit, request, signal, settle }: Waiting): void {
    const sent: TcpRequest = { transaction: this.#transactions.next(), unit, request }
    const bytes = encodeTcpRequest(sent)
    const timer = new AwakeTimer(this.options.responseTimeoutMs, () => this.#runOut())
    const cancel = () => this.#finish({ kind: 'cancelled', trace: this.#trace('') })
    signal?.addEventListener('abort', cancel, { once: true })
    const forget = () => signal?.removeEventListener('abort', cancel)
    this.#staleFrame = this.#framer.pendingCount > 0
    const start = performance.now()
    this.#inFlight = { sent, bytes: hexText(bytes), start, timer, settle, forget, foreign: undefined }
    socket.write(bytes)
  }

  #runOut(): void {
    const foreign = this.#inFlight?.foreign
    const trace = this.#trace('')
    if (foreign) return this.#finish({ kind: 'rejected', rejection: foreign, trace })
    this.#finish({ kind: 'no-answer', reason: `Nothing answered within ${this.options.responseTimeoutMs} ms.`, trace })
  }

  #receive(bytes: Uint8Array): void {
    for (const chunk of this.#framer.push(bytes)) {
      if ('broken' in chunk) {
        const trace = this.#trace(chunk.bytes)
        this.#drop()
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
    const answer = decodeTcpResponse(inFlight.sent, frame)
    if (answer.ok) return this.#finish({ kind: 'answered', response: answer.value, trace: this.#trace(hexText(frame)) })
    if (answer.refusal.reason === 'wrong-transaction') {
      // Late, or meant for somebody else: the right answer may still come.
      this.droppedCount += 1
      inFlight.foreign = answer.refusal
      return
    }
    this.#finish({ kind: 'rejected', rejection: answer.refusal, trace: this.#trace(hexText(frame)) })
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
    inFlight.settle(outcome)
    this.#next()
  }

  #connect(): void {
    const { host, port, connectTimeoutMs } = this.options
    const socket = new Socket()
    this.#connecting = true
    this.#framer = new TcpFramer()
    this.#staleFrame = false
    socket.setNoDelay(true)
    const start = performance.now()
    const fail = (reason: string) => {
      this.#connecting = false
      socket.destroy()
      const trace = { sent: '', received: '', milliseconds: performance.now() - start }
      this.#queue.shift()?.settle({ kind: 'no-connection', reason, trace })
      this.#next()
    }
    const timer = new AwakeTimer(connectTimeoutMs, () => fail(`nothing answered within ${connectTimeoutMs} ms.`))
    socket.once('error', (error: NodeJS.ErrnoException) => {
      if (!this.#connecting || this.#socket === socket) return
      timer.stop()
      fail(connectionReason(error))
    })
    socket.once('connect', () => {
      timer.stop()
      if (this.#closed) return void socket.destroy()
      this.#connecting = false
      this.#socket = socket
      socket.on('data', (bytes) => this.#socket === socket && this.#receive(bytes))
      socket.on('error', () => socket.destroy())
      socket.on('close', () => this.#socket === socket && this.#lost())
      this.#next()
    })
    socket.connect(port, host)
  }

  #lost(): void {
    this.#socket = undefined
    this.#staleFrame = false
    this.#finish({
      kind: 'closed',
      reason: 'The device closed the connection without an answer.',
      trace: this.#trace(''),
    })
  }

  #drop(): void {
    this.#socket?.destroy()
    this.#socket = undefined
    this.#staleFrame = false
    this.#next()
  }

  #restLater(): void {
    clearTimeout(this.#idle)
    this.#idle = setTimeout(() => {
      if (!this.#inFlight && this.#queue.length === 0) this.#drop()
    }, this.options.idleMs)
    this.#idle.unref()
  }
}

function connectionReason(error: NodeJS.ErrnoException): string {
  switch (error.code) {
    case 'ECONNREFUSED':
      return 'something is at this address, but nothing listens on this port.'
    case 'EHOSTUNREACH':
    case 'ENETUNREACH':
      return 'this laptop has no way to this address.'
    case 'ETIMEDOUT':
      return 'nothing answered.'
    default:
      return `${error.message}.`
  }
}
