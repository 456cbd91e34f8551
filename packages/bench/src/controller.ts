import type { TcpUnit } from '@calm/core/modbus'
import { type ModbusRequest, type ModbusResponse } from '@calm/core/modbus'
import { decodeValue, encodeValue, scaled, type ValueFormat } from '@calm/core/values'
import { answerIdentity } from './identity'
import { answerFromMap, type RegisterEntry } from './registerMap'
import type { StandInDefinition } from './standIn'

/** Asks a device once; `undefined` where no proper answer came. Given from outside: the bench has no transport of its own. */
export type Ask = (
  target: { readonly address: string; readonly port: number; readonly unit: TcpUnit },
  request: ModbusRequest,
) => Promise<ModbusResponse | undefined>

/** One line of the controller's program: what it polls, how it reads the words, where it serves the tag. */
export interface PolledTag {
  readonly tag: string
  readonly address: string
  readonly port: number
  readonly unit: TcpUnit
  readonly request: Extract<ModbusRequest, { code: 1 | 2 | 3 | 4 }>
  readonly format: ValueFormat
  readonly scale: number
  readonly offset: number
  readonly servedAt: number
}

/** What the controller holds in a tag that it could not fill: its program writes "not a number". */
const NO_VALUE = Number.NaN
const POLL_MS = 250

/**
 * The controller PLC-101: polls by its own program, as a real one does, and serves its tags as holding registers,
 * float 32, high word first. What it makes of the device's words is its program's doing: with the wrong word order the
 * tag holds a wrong number.
 */
export class ControllerProgram {
  #tags: readonly PolledTag[] = []
  readonly #values = new Map<string, number>()
  #timer: NodeJS.Timeout | undefined
  #polling = false

  constructor(readonly ask: Ask) {}

  /** Loads another program; values of tags that stay are kept until the next poll. */
  load(tags: readonly PolledTag[]): void {
    this.#tags = tags
    const names = new Set(tags.map((tag) => tag.tag))
    for (const name of this.#values.keys()) if (!names.has(name)) this.#values.delete(name)
  }

  get tagCount(): number {
    return this.#tags.length
  }

  valueOf(tag: string): number {
    return this.#values.get(tag) ?? NO_VALUE
  }

  start(): void {
    this.#timer = setInterval(() => void this.poll(), POLL_MS)
    this.#timer.unref()
  }

  stop(): void {
    clearInterval(this.#timer)
    this.#timer = undefined
  }

  /** One cycle over all tags, one after the other. A cycle that still runs is not started again. */
  async poll(): Promise<void> {
    if (this.#polling) return
    this.#polling = true
    try {
      for (const tag of this.#tags) {
        const value = await this.#read(tag)
        if (this.#tags.includes(tag)) this.#values.set(tag.tag, value)
      }
    } finally {
      this.#polling = false
    }
  }

  async #read(tag: PolledTag): Promise<number> {
    const response = await this.ask(tag, tag.request)
    if (response?.kind === 'bits') return response.bits[0] ? 1 : 0
    if (response?.kind !== 'words') return NO_VALUE
    const decoded = decodeValue(response.words, tag.format)
    const value = decoded.ok ? scaled(decoded.value, tag) : undefined
    return value ?? NO_VALUE
  }

  entries(): readonly RegisterEntry[] {
    return this.#tags.map((tag) => ({
      table: 'holding-registers',
      address: tag.servedAt,
      words: () => {
        const words = encodeValue({ kind: 'number', value: this.valueOf(tag.tag) }, { type: 'float32', order: 'ABCD' })
        return words.ok ? words.value : [0x7fc0, 0]
      },
    }))
  }
}

const IDENTITY = [
  { id: 0, text: 'Sample maker' },
  { id: 1, text: 'CC-16' },
  { id: 2, text: '3.2' },
  { id: 4, text: 'Compact controller (stand-in)' },
  { id: 5, text: 'PLC-101' },
]

export function controller(program: ControllerProgram): StandInDefinition {
  return {
    tag: 'PLC-101',
    what: 'Compact controller',
    plannedAddress: '10.20.40.10',
    units: [1, 255, 0],
    answer: (request, faults) =>
      request.code === 43 ? answerIdentity(IDENTITY, request) : answerFromMap(program.entries(), request, faults),
    state: () => `${program.tagCount} tag${program.tagCount === 1 ? '' : 's'} polled`,
  }
}
