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
import type { Outcome } from './outcome'

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
  readonly timer: NodeJS.Timeout
  readonly settle: (outcome: Outcome) => void
  /** What arrived meanwhile and was not the answer; told when no answer comes. */
  foreign: Rejection | undefined
}

/** How many requests may wait on one connection; more are refused, so that a slow device cannot fill the memory. */
const QUEUE_LIMIT = 64

/**
 * One Modbus TCP connection with a queue: one request after the other. An answer that comes after its time is known
 * by its transaction number and dropped; an answer from another unit, or with another form, is a rejection. Nothing
 * of the kind ever becomes a value.
 */
export class Exchange {
  readonly #queue: Waiting[] = []
  #socket: Socket | undefined
  #framer = new TcpFramer()
  #inFlight: InFlight | undefined
  #transaction = 0
  #connecting = false
  #idle: NodeJS.Timeout | undefined
  #closed = false
  /** Answers that came too late or belonged to nobody. */
  droppedCount = 0

  constructor(readonly options: ExchangeOptions) {}

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
    this.#queue.shift()
    this.#send(this.#socket, waiting)
  }

  #send(socket: Socket, { unit, request, settle }: Waiting): void {
    this.#transaction = (this.#transaction % 0xffff) + 1
    const sent: TcpRequest = { transaction: this.#transaction, unit, request }
    const bytes = encodeTcpRequest(sent)
    const { responseTimeoutMs } = this.options
    const timer = setTimeout(() => this.#runOut(), responseTimeoutMs)
    this.#inFlight = { sent, bytes: hexText(bytes), start: performance.now(), timer, settle, foreign: undefined }
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
        this.#finish({ kind: 'rejected', rejection: chunk.broken, trace: this.#trace(chunk.bytes) })
        this.#drop()
        return
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
    clearTimeout(inFlight.timer)
    this.#inFlight = undefined
    inFlight.settle(outcome)
    this.#next()
  }

  #connect(): void {
    const { host, port, connectTimeoutMs } = this.options
    const socket = new Socket()
    this.#connecting = true
    this.#framer = new TcpFramer()
    socket.setNoDelay(true)
    const start = performance.now()
    const fail = (reason: string) => {
      this.#connecting = false
      socket.destroy()
      const trace = { sent: '', received: '', milliseconds: performance.now() - start }
      this.#queue.shift()?.settle({ kind: 'no-connection', reason, trace })
      this.#next()
    }
    const timer = setTimeout(() => fail(`nothing answered within ${connectTimeoutMs} ms.`), connectTimeoutMs)
    socket.once('error', (error: NodeJS.ErrnoException) => {
      if (!this.#connecting || this.#socket === socket) return
      clearTimeout(timer)
      fail(connectionReason(error))
    })
    socket.once('connect', () => {
      clearTimeout(timer)
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
    this.#finish({
      kind: 'closed',
      reason: 'The device closed the connection without an answer.',
      trace: this.#trace(''),
    })
  }

  #drop(): void {
    this.#socket?.destroy()
    this.#socket = undefined
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
