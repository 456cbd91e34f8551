import type { FrontView } from '@calm/contract/live'
import { FrontDevice, type FrontFacts, type Service, type Surroundings } from './front'

const DIGITS = ['0', '1', '2', '3', '4', '5', '6', '7', '8', '9'] as const

/** Which digit of the number each rotary switch is. */
const SWITCHES = ['hundreds', 'tens', 'ones'] as const

/** Last octets that the switches can mean; any other stops it. */
const isHost = (number: number) => number >= 1 && number <= 254

/**
 * A device whose last octet is set by three rotary switches. They are read when power comes, and at no other time: what
 * is turned while it runs counts after the next power-up. A number that is no host leaves it without an address.
 */
export class SwitchHead extends FrontDevice {
  #turned: Record<(typeof SWITCHES)[number], string> = { hundreds: '0', tens: '0', ones: '0' }
  #read = 0

  /** @param subnet the first three octets, which stay: `10.20.40` */
  constructor(
    facts: FrontFacts,
    readonly subnet: string,
    around: Surroundings,
  ) {
    super(facts, 10, around)
  }

  deliver(): void {
    this.#turned = { hundreds: '0', tens: '0', ones: '0' }
    this.power = false
    this.plugged = true
  }

  protected override cameOn(): void {
    const { hundreds, tens, ones } = this.#turned
    this.#read = Number(`${hundreds}${tens}${ones}`)
  }

  address(): string | undefined {
    return isHost(this.#read) ? `${this.subnet}.${this.#read}` : undefined
  }

  services(): readonly Service[] {
    return [{ port: 502, kind: 'modbus' }]
  }

  lamps(): FrontView['lamps'] {
    const good = this.running && isHost(this.#read)
    return [
      { lamp: 'Power', words: this.power ? 'is green without flashing' : 'is dark' },
      {
        lamp: 'Status',
        words: !this.running ? 'is dark' : good ? 'flashes green once a second' : 'is red without flashing',
      },
    ]
  }

  override switches(): FrontView['switches'] {
    return SWITCHES.map((id) => ({
      id,
      label: `Switch for the ${id} of ${this.facts.tag}`,
      value: this.#turned[id],
      options: [...DIGITS],
    }))
  }

  override turn(id: string, value: string): boolean {
    const which = SWITCHES.find((each) => each === id)
    if (!which || !DIGITS.some((digit) => digit === value)) return false
    this.#turned = { ...this.#turned, [which]: value }
    return true
  }
}
