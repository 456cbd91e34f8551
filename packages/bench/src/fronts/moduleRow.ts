import type { FrontView } from '@calm/contract/live'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import { answerIdentity, standInIdentity } from '../identity'
import { noFaults } from '../faults'
import { answerFromMap } from '../registerMap'
import { FrontDevice, type FrontFacts, type Service, type Surroundings } from './front'

/** Seconds that a module's button is held to take the next address. */
const HOLD_SECONDS = 2

interface Module {
  readonly tag: string
  unit: number | null
}

/**
 * A head with a row of equal meter modules. After a search all of them flash with one factory address; the order in
 * which their buttons are held is the order of their addresses.
 */
export class ModuleRow extends FrontDevice {
  #modules: Module[]
  #searching = false

  constructor(
    facts: FrontFacts,
    readonly headAddress: string,
    readonly tags: readonly string[],
    around: Surroundings,
  ) {
    super(facts, 20, around)
    this.#modules = tags.map((tag) => ({ tag, unit: null }))
  }

  deliver(): void {
    this.#modules = this.tags.map((tag) => ({ tag, unit: null }))
    this.#searching = false
    this.power = false
    this.plugged = true
  }

  address(): string | undefined {
    return this.headAddress
  }

  services(): readonly Service[] {
    return [{ port: 502, kind: 'modbus' }]
  }

  lamps(): FrontView['lamps'] {
    const dark = !this.running
    return [
      {
        lamp: 'Head',
        words: dark ? 'is dark' : this.#searching ? 'flashes amber twice a second' : 'is green without flashing',
      },
      ...this.#modules.map(({ tag, unit }) => ({
        lamp: `${tag} bus`,
        words: dark
          ? 'is dark'
          : unit === null
            ? 'flashes green twice a second'
            : `is green without flashing, number ${unit}`,
      })),
    ]
  }

  override keys(): FrontView['keys'] {
    return [{ id: 'search', label: 'Search' }]
  }

  override buttons(): FrontView['buttons'] {
    return this.tags.map((tag) => ({ id: tag, label: `Button of ${tag}`, holdSeconds: HOLD_SECONDS }))
  }

  override press(id: string, seconds: number): boolean {
    if (id === 'search') {
      if (this.running) {
        this.#searching = true
        this.#modules.forEach((module) => (module.unit = null))
      }
      return true
    }
    const module = this.#modules.find((each) => each.tag === id)
    if (!module) return false
    if (!this.running || !this.#searching || seconds < HOLD_SECONDS || module.unit !== null) return true
    module.unit = 1 + Math.max(0, ...this.#modules.map((each) => each.unit ?? 0))
    this.#searching = this.#modules.some((each) => each.unit === null)
    return true
  }

  override answer(unit: number, request: ModbusRequest): Answer | undefined {
    const module = this.#modules.find((each) => each.unit === unit)
    if (unit === 255 || unit === 0)
      return request.code === 43 ? answerIdentity(this.identity(), request) : { exception: 2 }
    if (!module) return undefined
    if (request.code === 43) return answerIdentity(standInIdentity(module.tag, 'Meter module', this.facts), request)
    return answerFromMap([{ table: 'input-registers', address: 0, words: () => [unit * 100] }], request, noFaults)
  }
}
