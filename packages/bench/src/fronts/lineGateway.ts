import type { FrontView } from '@calm/contract/live'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import {
  exchangeMs,
  judgeFormats,
  readLineSettings,
  rtuSizes,
  silentTryMs,
  usualTiming,
  type LineTiming,
} from '@calm/core/serial'
import { encodeValue, type ByteOrder } from '@calm/core/values'
import { noFaults } from '../faults'
import { answerIdentity, METER_BEHIND, standInIdentity } from '../identity'
import { answerFromMap } from '../registerMap'
import { FrontDevice, type FrontFacts, type Service, type Surroundings } from './front'

/** A meter on the line, as it was delivered. */
export interface UnitOnLine {
  readonly tag: string
  readonly what: string
  readonly unit: number
  /** For example `9600 8E1`. */
  readonly settings: string
  readonly supplied: boolean
  readonly order: ByteOrder
  /** What it measures at a time, seconds since the bench began. */
  readonly flow: (seconds: number) => number
}

/** What is set at a unit, and what it runs with: a setting counts after its restart. */
interface UnitNow {
  readonly facts: UnitOnLine
  entered: string
  inForce: string
  supplied: boolean
}

/** Nobody behind the gateway answered it. @source MODBUS Application Protocol Specification V1.1b3, section 7 */
const NOBODY_BEHIND = { exception: 11 } as const

/** Settings that the units offer. */
const OFFERED = ['9600 8N1', '9600 8E1', '9600 8N2', '19200 8N1', '19200 8E1'] as const

/** How long the gateway waits for a unit, and how long a unit takes, ms. */
const [UNIT_TIMEOUT_MS, UNIT_MS] = [300, 10]

/**
 * A gateway in service with its serial line: what it passes on takes the time that the line takes, one question after
 * the other. A unit with another bit rate or parity than the line stays silent; two with one number talk into each
 * other, and the gateway hears neither.
 */
export class LineGateway extends FrontDevice {
  #units: UnitNow[] = []
  readonly #line: LineTiming
  /** When the line is free again, ms of the clock. */
  #freeAt = 0
  readonly #began: number

  constructor(
    facts: FrontFacts,
    readonly inService: string,
    settings: string,
    readonly onLine: readonly UnitOnLine[],
    around: Surroundings,
  ) {
    super(facts, 30, around)
    const read = readLineSettings(settings)
    if (!read.ok) throw new RangeError(read.refusal.what)
    this.#line = { ...usualTiming, settings: read.value, timeoutMs: UNIT_TIMEOUT_MS, retries: 0 }
    this.#began = around.clock()
    this.deliver()
  }

  deliver(): void {
    this.#units = this.onLine.map((facts) => ({
      facts,
      entered: facts.settings,
      inForce: facts.settings,
      supplied: facts.supplied,
    }))
    this.power = true
    this.plugged = true
  }

  address(): string | undefined {
    return this.inService
  }

  services(): readonly Service[] {
    return [{ port: 502, kind: 'modbus' }]
  }

  lamps(): FrontView['lamps'] {
    return [
      { lamp: 'Power', words: this.power ? 'is green without flashing' : 'is dark' },
      { lamp: 'Serial', words: this.running ? 'flashes green four times a second' : 'is dark' },
    ]
  }

  override switches(): FrontView['switches'] {
    return this.#units.flatMap(({ facts, entered, supplied }) => [
      { id: `line ${facts.tag}`, label: `Line in the menu of ${facts.tag}`, value: entered, options: [...OFFERED] },
      {
        id: `supply ${facts.tag}`,
        label: `Supply of ${facts.tag}`,
        value: supplied ? 'on' : 'off',
        options: ['on', 'off'],
      },
    ])
  }

  override buttons(): FrontView['buttons'] {
    return this.#units.map(({ facts }) => ({
      id: `restart ${facts.tag}`,
      label: `Restart ${facts.tag}`,
      holdSeconds: 0,
    }))
  }

  override turn(id: string, value: string): boolean {
    const [what, tag] = id.split(' ')
    const unit = this.#units.find(({ facts }) => facts.tag === tag)
    if (!unit) return false
    if (what === 'supply' && (value === 'on' || value === 'off')) {
      unit.supplied = value === 'on'
      // It starts with what is set in it.
      unit.inForce = unit.entered
      return true
    }
    if (what !== 'line' || !OFFERED.some((offered) => offered === value)) return false
    unit.entered = value
    return true
  }

  override press(id: string): boolean {
    const unit = this.#units.find(({ facts }) => id === `restart ${facts.tag}`)
    if (!unit) return false
    unit.inForce = unit.entered
    return true
  }

  /** Units that hear a question to this number: supplied, and with characters as the line has them. */
  #hearing(number: number): readonly UnitNow[] {
    return this.#units.filter(({ facts, inForce, supplied }) => {
      const own = readLineSettings(inForce)
      if (!supplied || facts.unit !== number || !own.ok) return false
      return judgeFormats(this.#line.settings, own.value, 'rtu').every(({ verdict }) => verdict !== 'never')
    })
  }

  override answer(unit: number, request: ModbusRequest): Answer | undefined {
    if (unit === 0 || unit === 255) return super.answer(unit, request)
    const hearing = this.#hearing(unit)
    const [only] = hearing
    if (!only || hearing.length > 1) return NOBODY_BEHIND
    const { tag, what, flow, order } = only.facts
    if (request.code === 43) return answerIdentity(standInIdentity(tag, what, METER_BEHIND), request)
    const value = flow((this.around.clock() - this.#began) / 1000)
    const words = encodeValue({ kind: 'number', value }, { type: 'float32', order })
    const held = words.ok ? words.value : []
    return answerFromMap([{ table: 'input-registers', address: 0, words: () => held }], request, noFaults)
  }

  /** How long an answer takes: until the line is free, and what is said on it. */
  override delayMs(unit: number, request: ModbusRequest): number {
    if (unit === 0 || unit === 255) return 0
    const poll = { name: '', bytes: rtuSizes(request), deviceMs: UNIT_MS, intervalMs: 0 }
    const takes = this.#hearing(unit).length === 1 ? exchangeMs(this.#line, poll) : silentTryMs(this.#line, poll)
    const now = this.around.clock()
    this.#freeAt = Math.max(this.#freeAt, now) + takes
    return this.#freeAt - now
  }
}
