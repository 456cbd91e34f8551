import type { FrontView } from '@calm/contract/live'
import { encodeValue } from '@calm/core/values'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import { answerFromMap } from '../registerMap'
import { noFaults } from '../faults'
import { FrontDevice, type FrontFacts, type Service, type Surroundings } from './front'

/** Parameters "address 1" to "address 4": the octets of the address. */
const FIRST_PARAMETER = 1

/**
 * A drive whose address is set at its keypad, one parameter for each octet. A setting is taken in local only, and
 * counts when power has been off.
 */
export class KeypadDrive extends FrontDevice {
  #octets: number[] = []
  #entered: number[] = []
  #mode: 'local' | 'remote' = 'remote'
  /** Parameter shown, 1 to 4; 0 shows the state. */
  #shown = 0

  constructor(
    facts: FrontFacts,
    readonly factory: string,
    around: Surroundings,
  ) {
    super(facts, 25, around)
    this.deliver()
  }

  deliver(): void {
    this.#octets = this.factory.split('.').map(Number)
    this.#entered = [...this.#octets]
    this.#mode = 'remote'
    this.#shown = 0
    this.power = false
    this.plugged = true
  }

  /** As if it had been set and power-cycled before. */
  place(address: string): void {
    this.#octets = address.split('.').map(Number)
    this.#entered = [...this.#octets]
  }

  protected override cameOn(): void {
    this.#octets = [...this.#entered]
    this.#shown = 0
  }

  address(): string | undefined {
    return this.#octets.join('.')
  }

  services(): readonly Service[] {
    return [{ port: 502, kind: 'modbus' }]
  }

  override display(): string | null {
    if (!this.power) return null
    if (!this.running) return 'starting'
    if (this.#shown === 0) return 'ready'
    return `address ${this.#shown}: ${String(this.#entered[this.#shown - 1]).padStart(3, '0')}`
  }

  lamps(): FrontView['lamps'] {
    const net = !this.power || !this.running ? 'is dark' : this.plugged ? 'flashes green once a second' : 'is dark'
    return [
      { lamp: 'Display', words: this.display() === null ? 'is dark' : `shows "${this.display()}"` },
      { lamp: 'Net', words: net },
    ]
  }

  override keys(): FrontView['keys'] {
    return [
      { id: 'menu', label: 'Menu' },
      { id: 'up', label: 'Up' },
      { id: 'down', label: 'Down' },
      { id: 'ten-up', label: 'Up by ten' },
      { id: 'ten-down', label: 'Down by ten' },
    ]
  }

  override switches(): FrontView['switches'] {
    return [{ id: 'mode', label: `Mode of ${this.facts.tag}`, options: ['local', 'remote'], value: this.#mode }]
  }

  override press(id: string): boolean {
    const step = { up: 1, down: -1, 'ten-up': 10, 'ten-down': -10 }[id]
    if (id !== 'menu' && step === undefined) return false
    if (!this.running) return true
    if (step === undefined) this.#shown = (this.#shown + FIRST_PARAMETER) % 5
    else if (this.#shown > 0 && this.#mode === 'local') {
      const at = this.#shown - 1
      this.#entered[at] = ((this.#entered[at] ?? 0) + step + 256) % 256
    }
    return true
  }

  override turn(id: string, value: string): boolean {
    if (id !== 'mode' || (value !== 'local' && value !== 'remote')) return false
    this.#mode = value
    return true
  }

  protected override registers(request: ModbusRequest): Answer {
    const speed = encodeValue({ kind: 'number', value: 0 }, { type: 'uint16', order: 'ABCD' })
    return answerFromMap(
      [{ table: 'holding-registers', address: 8, words: () => (speed.ok ? speed.value : [0]) }],
      request,
      noFaults,
    )
  }
}
