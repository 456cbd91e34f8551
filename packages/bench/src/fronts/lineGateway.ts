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
import { FrontDevice, type FrontFacts, type Service, type StandInSetting, type Surroundings } from './front'

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

/** What can be set at a unit. */
interface UnitSettings {
  readonly line: string
  readonly number: number
  readonly order: ByteOrder
}

/** What is set at a unit, and what it runs with: a setting counts after its restart. */
interface UnitNow {
  readonly facts: UnitOnLine
  entered: UnitSettings
  inForce: UnitSettings
  supplied: boolean
}

/** Nobody behind the gateway answered it. @source MODBUS Application Protocol Specification V1.1b3, section 7 */
const NOBODY_BEHIND = { exception: 11 } as const

/** What the menus of the units offer. */
const OFFERED: Readonly<Record<keyof UnitSettings, readonly string[]>> = {
  line: ['9600 8N1', '9600 8E1', '9600 8N2', '19200 8N1', '19200 8E1'],
  number: ['1', '2', '3', '4', '5', '11', '12'],
  order: ['ABCD', 'CDAB'],
}
const menuWords: Readonly<Record<keyof UnitSettings, string>> = {
  line: 'Line',
  number: 'Number',
  order: 'Word order',
}
const TERMS = { line: 'line-settings', number: 'unit-id', order: 'word-order' } as const
const isSetting = (what: string | undefined): what is keyof UnitSettings => what !== undefined && what in OFFERED

/** Without its far terminator the line reflects: of so many questions in a row one answer comes through whole. */
const REFLECTED = 3

/** From here on a unit shows its line, its number and its word order, by their places in its menu. */
const SETTINGS_AT = 20

/** How long the gateway waits for a unit, and how long a unit takes, ms. */
const [UNIT_TIMEOUT_MS, UNIT_MS] = [300, 10]

/**
 * A gateway in service with its serial line: what it passes on takes the time that the line takes, one question after
 * the other. A unit with another bit rate or parity than the line stays silent; two with one number talk into each
 * other, and the gateway hears neither. Without the terminator at its far end the line reflects, and frames are damaged
 * now and then.
 */
export class LineGateway extends FrontDevice {
  #units: UnitNow[] = []
  #isTerminated = true
  /** Counts questions, so that what is damaged comes out the same every time. */
  #asked = 0
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
    this.#units = this.onLine.map((facts) => {
      const delivered = { line: facts.settings, number: facts.unit, order: facts.order }
      return { facts, entered: delivered, inForce: delivered, supplied: facts.supplied }
    })
    this.#isTerminated = true
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
    const terminator = { id: 'terminator', label: 'Terminator at the far end', value: onOff(this.#isTerminated) }
    const units = this.#units.flatMap(({ facts, entered, supplied }) => [
      ...(Object.keys(OFFERED) as (keyof UnitSettings)[]).map((what) => ({
        id: `${what} ${facts.tag}`,
        label: `${menuWords[what]} in the menu of ${facts.tag}`,
        of: facts.tag,
        value: String(entered[what]),
        options: [...OFFERED[what]],
      })),
      {
        id: `supply ${facts.tag}`,
        label: `Supply of ${facts.tag}`,
        of: facts.tag,
        value: onOff(supplied),
        options: ['on', 'off'],
      },
    ])
    return [...units, { ...terminator, options: ['on', 'off'] }]
  }

  override buttons(): FrontView['buttons'] {
    return this.#units.map(({ facts }) => ({
      id: `restart ${facts.tag}`,
      label: `Restart ${facts.tag}`,
      holdSeconds: 0,
    }))
  }

  override turn(id: string, value: string): boolean {
    if (id === 'terminator' && (value === 'on' || value === 'off')) {
      this.#isTerminated = value === 'on'
      return true
    }
    const [what, tag] = id.split(' ')
    const unit = this.#units.find(({ facts }) => facts.tag === tag)
    if (!unit) return false
    if (what === 'supply' && (value === 'on' || value === 'off')) {
      unit.supplied = value === 'on'
      // It starts with what is set in it.
      unit.inForce = unit.entered
      return true
    }
    if (!isSetting(what) || !OFFERED[what].includes(value)) return false
    unit.entered = { ...unit.entered, [what]: what === 'number' ? Number(value) : value }
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
    return this.#units.filter(({ inForce, supplied }) => {
      const own = readLineSettings(inForce.line)
      if (!supplied || inForce.number !== number || !own.ok) return false
      return judgeFormats(this.#line.settings, own.value, 'rtu').every(({ verdict }) => verdict !== 'never')
    })
  }

  override settings(): readonly StandInSetting[] {
    const units = this.#units.flatMap(({ facts, entered, inForce, supplied }) => {
      const told = (what: keyof UnitSettings): readonly StandInSetting[] => {
        const termId = TERMS[what]
        const one = (standing: StandInSetting['standing'], now: UnitSettings): StandInSetting => ({
          tag: facts.tag,
          termId,
          standing,
          text: String(now[what]),
        })
        // What was entered and counts already is in force, and nothing more.
        return [...(entered[what] === inForce[what] ? [] : [one('entered', entered)]), one('in-force', inForce)]
      }
      return supplied ? (Object.keys(TERMS) as (keyof UnitSettings)[]).flatMap(told) : []
    })
    return [...super.settings(), ...units]
  }

  override answer(unit: number, request: ModbusRequest): Answer | undefined {
    if (unit === 0 || unit === 255) return super.answer(unit, request)
    const hearing = this.#hearing(unit)
    const [only] = hearing
    this.#asked += 1
    const isDamaged = !this.#isTerminated && this.#asked % REFLECTED !== 0
    if (!only || hearing.length > 1 || isDamaged) return NOBODY_BEHIND
    const { tag, what, flow } = only.facts
    const { order } = only.inForce
    if (request.code === 43) return answerIdentity(standInIdentity(tag, what, METER_BEHIND), request)
    const value = flow((this.around.clock() - this.#began) / 1000)
    const words = encodeValue({ kind: 'number', value }, { type: 'float32', order })
    const held = words.ok ? words.value : []
    const { line, number } = only.inForce
    const settings = [OFFERED.line.indexOf(line), number, OFFERED.order.indexOf(order)]
    return answerFromMap(
      [
        { table: 'input-registers', address: 0, words: () => held },
        { table: 'holding-registers', address: SETTINGS_AT, words: () => settings },
      ],
      request,
      noFaults,
    )
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

const onOff = (is: boolean): 'on' | 'off' => (is ? 'on' : 'off')
