import type { Socket } from 'node:net'
import type { IncomingMessage, ServerResponse } from 'node:http'
import type { FrontView } from '@calm/contract/live'
import { formatMask, prefixLength } from '@calm/core/address'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import { noFaults } from '../faults'
import { answerFromMap } from '../registerMap'
import { FrontDevice, type FrontFacts, type Service, type Surroundings } from './front'
import { refusedSettings, type PageSettings } from './page'

interface CardSettings extends PageSettings {
  readonly by: 'fixed' | 'lease'
  readonly upsCode: string
  readonly modbus: boolean
}

const MENU = ['', '1  Network', '2  UPS code and test data', '3  Services', '4  Show', '9  Save and restart', ''].join(
  '\r\n',
)

/** The code that the label of the UPS carries. */
const UPS_CODE = '4711'

/**
 * A UPS network card: set by a menu over its serial socket. It keeps what was typed apart until it is saved, still
 * shows the old values when it confirms, and comes up at the new address after its restart.
 */
export class SerialMenuCard extends FrontDevice {
  #inForce: CardSettings
  #typed: CardSettings

  constructor(
    facts: FrontFacts,
    readonly factory: string,
    /** What the server of leases on the bench has for it. */
    readonly reserved: PageSettings,
    around: Surroundings,
  ) {
    super(facts, 150, around)
    this.#inForce = this.#delivered()
    this.#typed = this.#inForce
  }

  #delivered(): CardSettings {
    return {
      address: this.factory,
      mask: formatMask(prefixLength(24)),
      gateway: '',
      by: 'fixed',
      upsCode: '',
      modbus: false,
    }
  }

  deliver(): void {
    this.#inForce = this.#delivered()
    this.#typed = this.#inForce
    this.power = false
    this.plugged = true
  }

  address(): string | undefined {
    return this.#shown.address
  }

  /** What it has now: its own settings, or its lease. */
  get #shown(): PageSettings {
    return this.#inForce.by === 'lease' ? this.reserved : this.#inForce
  }

  services(): readonly Service[] {
    const page = { port: 80, kind: 'page' } as const
    return this.#inForce.modbus ? [page, { port: 502, kind: 'modbus' }] : [page]
  }

  lamps(): FrontView['lamps'] {
    const status = !this.power ? 'is dark' : this.running ? 'is green without flashing' : 'flashes amber once a second'
    return [
      { lamp: 'Status', words: status },
      { lamp: 'Net', words: this.running && this.plugged ? 'flashes green once a second' : 'is dark' },
    ]
  }

  override servePage(_request: IncomingMessage, response: ServerResponse): void {
    response
      .writeHead(200, { 'content-type': 'text/plain; charset=utf-8' })
      .end(`${this.facts.what}, firmware ${this.facts.firmware}. Battery ${this.#battery()} %.`)
  }

  /** Without the code of the UPS every value stays zero. */
  #battery(): number {
    return this.#inForce.upsCode === UPS_CODE ? 97 : 0
  }

  protected override registers(request: ModbusRequest): Answer {
    return answerFromMap([{ table: 'input-registers', address: 0, words: () => [this.#battery()] }], request, noFaults)
  }

  override console(): (socket: Socket) => void {
    return (socket) => new MenuSession(socket, this.#dialogue()).begin()
  }

  *#dialogue(): Dialogue {
    const user = yield { say: '\r\nNetwork card\r\nuser: ' }
    const password = yield { say: 'password: ', secret: true }
    if (user === '' || password === '') {
      yield { say: 'not known\r\n', ends: true }
      return
    }
    for (;;) {
      const choice = yield { say: `${MENU}\r\nchoice: ` }
      if (choice === '1') yield* this.#network()
      else if (choice === '2') yield* this.#upsCode()
      else if (choice === '3') {
        const service = yield { say: 'service (modbus on, modbus off): ' }
        const known = service === 'modbus on' || service === 'modbus off'
        if (known) this.#typed = { ...this.#typed, modbus: service === 'modbus on' }
        yield* said(
          known ? `modbus ${this.#typed.modbus ? 'on' : 'off'}, not saved yet` : `"${service}" is not a service`,
        )
      } else if (choice === '4') yield* this.#show()
      else if (choice === '9') {
        const { address, mask, gateway } = this.#shown
        const answer = yield { say: `now: ${address} ${mask} ${gateway || '-'}\r\nsave and restart? (yes): ` }
        if (answer !== 'yes') continue
        this.#inForce = this.#typed
        this.restart()
        yield { say: 'restarting\r\n', ends: true }
        return
      } else yield* said(`"${choice}" is not in the menu`)
    }
  }

  *#network(): Dialogue {
    const by = yield { say: 'address by (fixed, lease): ' }
    if (by === 'lease') {
      this.#typed = { ...this.#typed, by }
      return yield* said('not saved yet')
    }
    if (by !== 'fixed') return yield* said(`"${by}" is not a way`)
    const address = yield { say: 'address: ' }
    const mask = yield { say: 'mask: ' }
    const gateway = yield { say: 'gateway: ' }
    const refused = refusedSettings({ address, mask, gateway })
    if (!refused) this.#typed = { ...this.#typed, by, address, mask, gateway }
    yield* said(refused ?? 'not saved yet')
  }

  *#show(): Dialogue {
    const { address, mask, gateway } = this.#shown
    const lines = [
      `address now ${address} (${this.#inForce.by})`,
      `mask now ${mask}`,
      `gateway now ${gateway || '-'}`,
      `firmware ${this.facts.firmware}`,
      `code of the unit ${this.#inForce.upsCode || '-'}`,
    ]
    yield* said(lines.join('\r\n'))
  }

  *#upsCode(): Dialogue {
    const code = yield { say: 'code: ' }
    const known = code === UPS_CODE
    if (known) this.#typed = { ...this.#typed, upsCode: code }
    yield* said(known ? 'test data: battery 97 %, load 31 %' : 'test data: battery 0 %, load 0 %')
  }
}

/** One prompt of a menu. */
interface Prompt {
  readonly say: string
  /** What is typed is not shown. */
  readonly secret?: boolean
  readonly ends?: boolean
}

type Dialogue = Generator<Prompt, void, string>

function* said(text: string): Dialogue {
  yield { say: `${text}\r\npress enter: ` }
}

/** Talks over one connection: echoes, edits a line, hands it to the dialogue. */
class MenuSession {
  #line = ''
  #prompt: Prompt = { say: '' }

  constructor(
    readonly socket: Socket,
    readonly dialogue: Dialogue,
  ) {}

  begin(): void {
    this.socket.on('error', () => this.socket.destroy())
    this.socket.on('data', (bytes) => {
      for (const sign of bytes.toString('latin1')) this.#take(sign)
    })
    // A real menu waits for the first return; without it the screen stays empty.
    this.#prompt = { say: '', secret: true }
  }

  #take(sign: string): void {
    if (sign === '\r' || sign === '\n') {
      if (sign === '\n' && this.#line === '') return
      if (this.#prompt.say !== '') this.socket.write('\r\n')
      const line = this.#line
      this.#line = ''
      return this.#next(line)
    }
    if (sign === '\b' || sign === '\u007f') {
      if (this.#line !== '' && !this.#prompt.secret) this.socket.write('\b \b')
      this.#line = this.#line.slice(0, -1)
    } else if (sign >= ' ' && this.#line.length < 80) {
      this.#line += sign
      if (!this.#prompt.secret) this.socket.write(sign)
    }
  }

  #next(line: string): void {
    const step = this.dialogue.next(line.trim())
    if (step.done) return void this.socket.end()
    this.#prompt = step.value
    this.socket.write(step.value.say, 'latin1')
    if (step.value.ends) this.socket.end()
  }
}
