import type { IncomingMessage, ServerResponse } from 'node:http'
import type { Socket } from 'node:net'
import type { FrontView } from '@calm/contract/live'
import { formatMask, prefixLength } from '@calm/core/address'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import { noFaults } from '../faults'
import { answerFromMap } from '../registerMap'
import { FrontDevice, type FrontFacts, type Service, type Surroundings } from './front'
import { serveSettingsPage, type PageSettings } from './page'

/** What became of settings that were written on a page. */
export type PageWritten = { readonly say: string } | { readonly refused: string }

/** A device that is set on its own page: a remote I/O head, a serial device server. It restarts by itself. */
export class PageDevice extends FrontDevice {
  #settings: PageSettings

  constructor(
    facts: FrontFacts,
    startUpSeconds: number,
    readonly factory: string,
    around: Surroundings,
    readonly modbus: boolean,
  ) {
    super(facts, startUpSeconds, around)
    this.#settings = this.#delivered()
  }

  #delivered(): PageSettings {
    return { address: this.factory, mask: formatMask(prefixLength(24)), gateway: '' }
  }

  deliver(): void {
    this.#settings = this.#delivered()
    this.power = false
    this.plugged = true
  }

  /** Takes settings, as from its page. */
  protected take(settings: PageSettings): void {
    this.#settings = settings
  }

  /** Settings were written on its page: it takes them and restarts. */
  protected written(settings: PageSettings): PageWritten {
    this.take(settings)
    this.restart()
    return { say: 'Written. The device restarts; this page is gone for good.' }
  }

  address(): string | undefined {
    return this.#settings.address
  }

  services(): readonly Service[] {
    return [{ port: 80, kind: 'page' }, ...(this.modbus ? [{ port: 502, kind: 'modbus' } as const] : [])]
  }

  lamps(): FrontView['lamps'] {
    const starting = this.power && !this.running
    return [
      { lamp: 'Power', words: this.power ? 'is green without flashing' : 'is dark' },
      {
        lamp: 'Ready',
        words: starting ? 'flashes amber twice a second' : this.power ? 'is green without flashing' : 'is dark',
      },
      { lamp: 'Net', words: this.running && this.plugged ? 'flashes green once a second' : 'is dark' },
    ]
  }

  override servePage(request: IncomingMessage, response: ServerResponse): void {
    serveSettingsPage(request, response, {
      title: `${this.facts.what}, ${this.facts.model}`,
      lines: [
        `Serial number ${this.facts.serialNumber}`,
        `Hardware address ${this.facts.mac}`,
        `Firmware ${this.facts.firmware}`,
      ],
      now: this.#settings,
      write: (settings) => this.written(settings),
    })
  }

  protected override registers(request: ModbusRequest): Answer {
    return answerFromMap([{ table: 'input-registers', address: 0, words: () => [417] }], request, noFaults)
  }
}

/** A device server with a reader on its line: what is scanned goes out on its text port. */
export class DeviceServer extends PageDevice {
  readonly #listeners = new Set<Socket>()
  #scanned = 0

  override services(): readonly Service[] {
    return [
      ...super.services(),
      {
        port: 4001,
        kind: 'text',
        open: (socket) => {
          this.#listeners.add(socket)
          socket.on('close', () => this.#listeners.delete(socket))
        },
      },
    ]
  }

  /** What stands on the tag of a bag, counted from the last one that was scanned. */
  #tag(ahead: number): string {
    return `BAG-${String(1000 + this.#scanned + ahead)}`
  }

  override buttons(): FrontView['buttons'] {
    return [{ id: 'scan', label: `Scan feed bag ${this.#tag(1)}`, holdSeconds: 0 }]
  }

  override press(id: string): boolean {
    if (id !== 'scan') return false
    this.#scanned += 1
    if (this.running) for (const socket of this.#listeners) socket.write(`${this.#tag(0)}\r\n`)
    return true
  }
}

/** A supervisory controller: its address comes from a server that knows its hardware address. */
export class SupervisoryController extends FrontDevice {
  constructor(
    facts: FrontFacts,
    readonly reserved: string,
    around: Surroundings,
  ) {
    super(facts, 300, around)
  }

  deliver(): void {
    this.power = false
    this.plugged = true
  }

  address(): string | undefined {
    return this.reserved
  }

  services(): readonly Service[] {
    return [{ port: 80, kind: 'page' }]
  }

  lamps(): FrontView['lamps'] {
    return [
      { lamp: 'Power', words: this.power ? 'is green without flashing' : 'is dark' },
      {
        lamp: 'Run',
        words: !this.power ? 'is dark' : this.running ? 'flashes green once a second' : 'is green without flashing',
      },
      { lamp: 'Fault', words: this.power && !this.running ? 'is red without flashing' : 'is dark' },
    ]
  }

  override buttons(): FrontView['buttons'] {
    return [{ id: 'restart', label: 'Restart', holdSeconds: 3 }]
  }

  override press(id: string, seconds: number): boolean {
    if (id !== 'restart') return false
    if (seconds >= 3 && this.power) this.restart()
    return true
  }

  override servePage(_request: IncomingMessage, response: ServerResponse): void {
    response
      .writeHead(200, { 'content-type': 'text/plain; charset=utf-8' })
      .end(`${this.facts.tag}, ${this.facts.what}`)
  }
}
