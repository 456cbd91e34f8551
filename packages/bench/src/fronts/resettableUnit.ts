import type { FrontView } from '@calm/contract/live'
import { formatMask, prefixLength } from '@calm/core/address'
import type { FrontFacts, Surroundings } from './front'
import { PageDevice } from './pageDevice'

/** Short presses after which everything is reset; fewer would reset only a part. */
const ALL = 3
const CONFIRM_SECONDS = 3

/** Not asked, the button seen at power-up, waiting for presses. */
type Asked = 'no' | 'seen' | 'counting'

/**
 * A remote-control unit in service at its own address. Its button is looked at when power comes: pressed then, and let
 * go, it counts short presses, and a long one resets it to the factory address.
 */
export class ResettableUnit extends PageDevice {
  #pressed = false
  #mode = 'run'
  #asked: Asked = 'no'
  #count = 0
  #wasReset = false

  constructor(
    facts: FrontFacts,
    factory: string,
    readonly inService: string,
    around: Surroundings,
  ) {
    super(facts, 120, factory, around, true)
    this.deliver()
  }

  override deliver(): void {
    this.take({ address: this.inService, mask: formatMask(prefixLength(24)), gateway: '' })
    this.power = true
    this.plugged = true
    this.#pressed = false
    this.#mode = 'run'
    this.#asked = 'no'
    this.#wasReset = false
  }

  protected override cameOn(): void {
    // The button counts at power-up and at no other time, and only with the mode switch at service.
    this.#asked = this.#pressed && this.#mode === 'service' ? 'seen' : 'no'
    this.#count = 0
    this.#wasReset = false
  }

  /** Before it is told what to reset it does not start. */
  override get running(): boolean {
    return super.running && this.#asked === 'no' && this.#mode === 'run'
  }

  override lamps(): FrontView['lamps'] {
    if (!this.power || this.#asked === 'no') {
      const reset = this.#wasReset && !this.running
      return [...super.lamps(), { lamp: 'All', words: reset ? 'flashed amber: it was reset' : 'as above' }]
    }
    const both = this.#asked === 'seen' ? 'are amber without flashing' : 'come in turn, green and amber'
    return [
      { lamp: 'Both', words: both },
      { lamp: 'Count', words: `${this.#count} of ${ALL} lit` },
    ]
  }

  override buttons(): FrontView['buttons'] {
    return [
      { id: 'reset', label: 'Reset button', holdSeconds: CONFIRM_SECONDS },
      { id: 'restore', label: 'Restore the copy', holdSeconds: 0 },
    ]
  }

  override switches(): FrontView['switches'] {
    return [
      { id: 'mode', label: `Mode of ${this.facts.tag}`, value: this.#mode, options: ['run', 'service'] },
      {
        id: 'button',
        label: `Reset button of ${this.facts.tag}`,
        value: this.#pressed ? 'pressed' : 'let go',
        options: ['let go', 'pressed'],
      },
    ]
  }

  override turn(id: string, value: string): boolean {
    if (id === 'mode') {
      this.#mode = value
      // Back at run it starts from the top.
      if (value === 'run' && this.power) this.restart()
    } else if (id === 'button') {
      this.#pressed = value === 'pressed'
      if (!this.#pressed && this.#asked === 'seen') this.#asked = 'counting'
    }
    return id === 'mode' || id === 'button'
  }

  override press(id: string, seconds: number): boolean {
    if (id === 'restore') {
      if (this.running) this.restart()
      return true
    }
    if (id !== 'reset') return false
    if (this.#asked !== 'counting') return true
    if (seconds < CONFIRM_SECONDS) {
      this.#count = Math.min(ALL, this.#count + 1)
      return true
    }
    // With too few lamps lit only a part is reset: the address stays.
    if (this.#count === ALL) this.take({ address: this.factory, mask: formatMask(prefixLength(24)), gateway: '' })
    this.#wasReset = this.#count === ALL
    this.#asked = 'no'
    this.restart()
    return true
  }
}
