import type { FrontView } from '@calm/contract/live'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import { noFaults } from '../faults'
import { answerIdentity, METER_BEHIND, standInIdentity } from '../identity'
import { answerFromMap } from '../registerMap'
import type { FrontFacts, Surroundings } from './front'
import { PageDevice, type PageWritten } from './pageDevice'
import type { PageSettings } from './page'

/** One unit on the line behind. */
export interface UnitBehind {
  readonly tag: string
  readonly what: string
  readonly unit: number
}

/** "Gateway path unavailable" and "gateway target device failed to respond". @source MODBUS Application Protocol Specification V1.1b3, section 7 */
const NO_PATH = { exception: 10 } as const
const NOBODY_BEHIND = { exception: 11 } as const

/**
 * A gateway that takes its settings in a mode of its own: a button brings it there, and until it is reset it passes
 * nothing on. What its page took is in force after that reset.
 */
export class ButtonGateway extends PageDevice {
  #configures = false
  #taken: PageSettings | undefined

  constructor(
    facts: FrontFacts,
    factory: string,
    readonly behind: readonly UnitBehind[],
    around: Surroundings,
  ) {
    super(facts, 30, factory, around, true)
  }

  override deliver(): void {
    super.deliver()
    this.#configures = false
    this.#taken = undefined
  }

  protected override cameOn(): void {
    this.#configures = false
    this.#taken = undefined
  }

  protected override written(settings: PageSettings): PageWritten {
    if (!this.#configures)
      return { refused: 'It is on line. Settings are taken in its configuration mode only: press its button.' }
    this.#taken = settings
    return { say: 'Taken. They are in force after its reset.' }
  }

  override buttons(): FrontView['buttons'] {
    return [
      { id: 'config', label: 'Configuration button', holdSeconds: 0 },
      { id: 'reset', label: 'Reset button', holdSeconds: 0 },
    ]
  }

  override press(id: string): boolean {
    if (id === 'config') this.#configures ||= this.running
    else if (id === 'reset' && this.power) {
      if (this.#taken) this.take(this.#taken)
      this.#taken = undefined
      this.#configures = false
      this.restart()
    }
    return id === 'config' || id === 'reset'
  }

  override lamps(): FrontView['lamps'] {
    const passes = this.running && !this.#configures
    return [
      { lamp: 'Power', words: this.power ? 'is green without flashing' : 'is dark' },
      { lamp: 'Serial', words: passes ? 'flashes amber four times a second' : 'is dark' },
      { lamp: 'Config', words: this.#configures ? 'comes in turn, green and amber' : 'is dark' },
    ]
  }

  override answer(unit: number, request: ModbusRequest): Answer | undefined {
    if (unit === 0 || unit === 255) return super.answer(unit, request)
    if (this.#configures) return NO_PATH
    const asked = this.behind.find((each) => each.unit === unit)
    if (!asked) return NOBODY_BEHIND
    if (request.code === 43) return answerIdentity(standInIdentity(asked.tag, asked.what, METER_BEHIND), request)
    return answerFromMap([{ table: 'holding-registers', address: 0, words: () => [unit * 100] }], request, noFaults)
  }
}
