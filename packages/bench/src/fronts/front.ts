import type { IncomingMessage, ServerResponse } from 'node:http'
import type { Socket } from 'node:net'
import type { FrontView } from '@calm/contract/live'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import type { TermId } from '@calm/core/terms'
import { answerIdentity, standInIdentity } from '../identity'

/** What a front needs of its surroundings. */
export interface Surroundings {
  /** Milliseconds since 1970. */
  readonly clock: () => number
  /** How many times faster than real things start. */
  readonly speed: () => number
}

/** One thing that a running device serves at its address. */
export type Service =
  | { readonly port: number; readonly kind: 'modbus' }
  | { readonly port: number; readonly kind: 'page' }
  | { readonly port: number; readonly kind: 'text'; readonly open: (socket: Socket) => void }

/** What makes one device different from another of its like. */
export interface FrontFacts {
  readonly tag: string
  readonly what: string
  readonly breaker: string
  readonly model: string
  readonly firmware: string
  readonly serialNumber: string
  readonly mac: string
  readonly orderCode: string
  /** How it shows itself on the wire to who listens. */
  readonly speaks?: readonly ('identity' | 'name' | 'lease')[]
}

/** What a setting of a stand-in stands at. */
export interface StandInSetting {
  readonly tag: string
  readonly termId: TermId
  readonly standing: 'entered' | 'in-force'
  readonly text: string
}

/**
 * A device with a front: power, plug, lamps, keys. It has an address in force only while it runs, and starts anew
 * whenever power returns.
 */
export abstract class FrontDevice {
  power = false
  plugged = true
  #startedAt = 0

  constructor(
    readonly facts: FrontFacts,
    readonly startUpSeconds: number,
    protected readonly around: Surroundings,
  ) {}

  /** The address in force, while it runs; `undefined` where it has none. */
  abstract address(): string | undefined
  abstract services(): readonly Service[]
  abstract lamps(): FrontView['lamps']
  /** Back to how it was delivered. */
  abstract deliver(): void

  display(): string | null {
    return null
  }
  keys(): FrontView['keys'] {
    return []
  }
  buttons(): FrontView['buttons'] {
    return []
  }
  switches(): FrontView['switches'] {
    return []
  }
  /** @returns false where there is no such key or button */
  press(_id: string, _seconds: number): boolean {
    return false
  }
  turn(_id: string, _value: string): boolean {
    return false
  }
  /** What its settings stand at, and those of what hangs behind it, as terms. */
  settings(): readonly StandInSetting[] {
    const address = this.running ? this.address() : undefined
    return address === undefined
      ? []
      : [{ tag: this.facts.tag, termId: 'address', standing: 'in-force', text: address }]
  }
  /** Its serial socket, where it has one. */
  console(): ((socket: Socket) => void) | undefined {
    return undefined
  }
  servePage(_request: IncomingMessage, response: ServerResponse): void {
    response.writeHead(404).end()
  }
  answer(unit: number, request: ModbusRequest): Answer | undefined {
    if (unit !== 1 && unit !== 255 && unit !== 0) return undefined
    return request.code === 43 ? answerIdentity(this.identity(), request) : this.registers(request)
  }
  /** Milliseconds that an answer to this unit takes beside the network. */
  delayMs(_unit: number, _request: ModbusRequest): number {
    return 0
  }
  protected registers(_request: ModbusRequest): Answer {
    return { exception: 2 }
  }

  protected identity() {
    return standInIdentity(this.facts.tag, this.facts.what, this.facts)
  }

  setPower(on: boolean): void {
    if (on === this.power) return
    this.power = on
    if (on) {
      this.restart()
      this.cameOn()
    }
  }

  /** Starts anew, as after power. */
  restart(): void {
    this.#startedAt = this.around.clock()
  }

  protected cameOn(): void {}

  startsIn(): number {
    if (!this.power) return 0
    const passed = ((this.around.clock() - this.#startedAt) / 1000) * this.around.speed()
    return Math.max(0, this.startUpSeconds - passed)
  }

  get running(): boolean {
    return this.power && this.startsIn() <= 0
  }
}
