import { createServer, type Server, type Socket } from 'node:net'
import type { BenchLaptopView, Faults, FrontAct, FrontView, StandInView } from '@calm/contract/live'
import { contains, parseIpv4, prefixLength, subnetOf } from '@calm/core/address'
import { benchHost, claimBlock, claimHost, type AddressBlock } from './addressBook'
import { controller, ControllerProgram, type Ask, type PolledTag } from './controller'
import { energyMeter } from './energyMeter'
import { BenchSwitch } from './fronts/benchSwitch'
import { deliveredFronts } from './fronts/delivered'
import type { FrontDevice, StandInSetting } from './fronts/front'
import { BenchWire } from './fronts/wire'
import { StandIn } from './standIn'

/** Ports below 1024 need rights that a technician's account often lacks, so the bench serves 502 here. */
export const BENCH_MODBUS_PORT = 1502

/** Where the laptop of the bench stands at first. */
const LAPTOP_AT_FIRST: BenchLaptopView = {
  addresses: [{ address: '10.20.40.5', prefix: 24 }],
  cable: 'switch',
  speed: 1,
}

/** All stand-ins of the bench. */
export class Bench {
  #standIns: readonly StandIn[] = []
  #claim: AddressBlock | undefined
  readonly #clock: () => number
  readonly #fronts: readonly FrontDevice[]
  readonly #switch: BenchSwitch
  /** What is sent to everybody. */
  readonly wire: BenchWire
  readonly #consoles = new Map<string, Server>()
  readonly #consoleSockets = new Set<Socket>()
  readonly #program: ControllerProgram
  #laptop = LAPTOP_AT_FIRST
  #anyPort = false

  /**
   * @param ask how the controller's program reaches devices, by their planned address
   * @param clock milliseconds since 1970
   */
  constructor(ask: Ask, clock: () => number) {
    this.#program = new ControllerProgram(ask)
    this.#clock = clock
    this.#fronts = deliveredFronts({ clock, speed: () => this.#laptop.speed })
    this.#switch = new BenchSwitch(this.#fronts, {
      portFor: (port) => (this.#anyPort ? 0 : benchPort(port)),
      hostFor: (address) => this.hostOf(address),
    })
    this.wire = new BenchWire(this.#fronts, {
      hostFor: (address) => this.hostOf(address),
      isHeard: ({ facts }) => this.#laptop.cable === 'switch' || this.#laptop.cable === facts.tag,
    })
  }

  /** The address that is served on a loopback address; `undefined` where nobody is. */
  servedAt(host: string): string | undefined {
    return this.#fronts
      .map((front) => front.address())
      .find((address) => address !== undefined && this.hostOf(address) === host)
  }

  async start(port = BENCH_MODBUS_PORT): Promise<void> {
    this.#anyPort = port === 0
    this.#claim = await claimBlock()
    this.#standIns = [controller(this.#program), energyMeter(this.#clock)].map(
      (definition) => new StandIn(definition, this.hostOf(definition.plannedAddress)),
    )
    try {
      for (const standIn of this.#standIns) await standIn.start(port)
      for (const front of this.#fronts) await this.#openConsole(front)
      await this.#switch.start()
      await this.wire.start(claimHost(this.block))
    } catch (reason) {
      await this.stop()
      throw reason
    }
    this.#program.start()
  }

  async stop(): Promise<void> {
    this.#program.stop()
    await Promise.all(this.#standIns.map((standIn) => standIn.stop()))
    await this.#switch.stop()
    await this.wire.stop()
    // A console that somebody left open must not keep the bench running.
    for (const socket of this.#consoleSockets) socket.destroy()
    await Promise.all(
      [...this.#consoles.values()].map((server) => new Promise<void>((done) => void server.close(() => done()))),
    )
    this.#consoles.clear()
    await this.#claim?.release()
    this.#claim = undefined
  }

  /** Which block of loopback addresses the stand-ins are served on: 0 is 127.20.40.x for 10.20.40.x. */
  get block(): number {
    return this.#claim?.block ?? 0
  }

  /** The loopback address that a planned one is served on. */
  hostOf(plannedAddress: string): string {
    return benchHost(plannedAddress, this.block)
  }

  /** A serial socket is a port of its own on the bench; nobody answers on it while the device has no power. */
  async #openConsole(front: FrontDevice): Promise<void> {
    const talk = front.console()
    if (!talk) return
    const server = createServer((socket) => {
      socket.unref()
      this.#consoleSockets.add(socket)
      socket.on('close', () => this.#consoleSockets.delete(socket))
      socket.on('error', () => socket.destroy())
      talkOnceRunning(front, talk, socket)
    })
    await new Promise<void>((done, fail) => {
      server.once('error', fail)
      server.listen(0, '127.0.0.1', done)
    })
    this.#consoles.set(front.facts.tag, server)
  }

  /** The address book: where an address and port are served. Nobody may be there, as in a real panel. */
  resolve(address: string, port: number): { readonly host: string; readonly port: number } {
    const host = this.hostOf(address)
    const standIn = this.#standIns.find((each) => each.host === host)
    if (standIn && standIn.port > 0 && port === 502) return { host, port: standIn.port }
    return this.#switch.placeOf(address, port) ?? { host, port: benchPort(port) }
  }

  /** The same, as the laptop has it: only from a subnet it is in, and only what its cable hears. */
  resolveForLaptop(address: string, port: number): { readonly host: string; readonly port: number } {
    return this.hearsFromLaptop(address) ? this.resolve(address, port) : { host: NOBODY, port: benchPort(port) }
  }

  /** Whether the laptop is in the subnet of an address, with its cable where that is heard. */
  hearsFromLaptop(address: string): boolean {
    const to = parseIpv4(address)
    if (!to.ok) return false
    const near = this.#laptop.addresses.some((own) => {
      const read = parseIpv4(own.address)
      return read.ok && contains(subnetOf(read.value, prefixLength(own.prefix)), to.value)
    })
    if (!near || this.#laptop.cable === 'switch') return near
    return this.#switch.holdersOf(address).some((holder) => holder.facts.tag === this.#laptop.cable)
  }

  /** Whether somebody on the bench is at an address, and the laptop hears it. */
  isThere(address: string): boolean {
    const stands = this.#standIns.some((standIn) => standIn.definition.plannedAddress === address)
    return this.hearsFromLaptop(address) && (stands || this.#switch.holdersOf(address).length > 0)
  }

  /** Whom the laptop would have in its neighbour table. */
  neighbours(): readonly { readonly address: string; readonly hardwareAddress: string }[] {
    return this.#fronts.flatMap((front) => {
      const address = front.running && front.plugged ? front.address() : undefined
      return address !== undefined && this.hearsFromLaptop(address)
        ? [{ address, hardwareAddress: front.facts.mac }]
        : []
    })
  }

  get laptop(): BenchLaptopView {
    return this.#laptop
  }

  setLaptop(view: BenchLaptopView): void {
    this.#laptop = view
  }

  /** What the settings of a stand-in stand at. */
  settingsOf(tag: string): readonly StandInSetting[] {
    return this.#fronts.flatMap((front) => front.settings()).filter((each) => each.tag === tag)
  }

  /** Everything with a front, as it looks now. */
  fronts(): readonly FrontView[] {
    return this.#fronts.map((front) => {
      const address = front.running && front.plugged ? front.address() : undefined
      const page = address === undefined ? undefined : this.#switch.placeOf(address, 80)
      const console = this.#consoles.get(front.facts.tag)?.address()
      return {
        tag: front.facts.tag,
        what: front.facts.what,
        breaker: front.facts.breaker,
        power: front.power,
        plugged: front.plugged,
        address: address ?? null,
        startsIn: front.startsIn(),
        lamps: front.lamps(),
        display: front.display(),
        keys: front.keys(),
        buttons: front.buttons(),
        switches: front.switches(),
        label: [
          `${front.facts.orderCode}`,
          `serial number ${front.facts.serialNumber}`,
          `hardware address ${front.facts.mac}`,
        ],
        page: page ? `http://${page.host}:${page.port}/` : null,
        console: typeof console === 'object' && console ? `127.0.0.1:${console.port}` : null,
      }
    })
  }

  /** @returns false where there is no such front, key, button or switch */
  async act(tag: string, act: FrontAct): Promise<boolean> {
    const front = this.#fronts.find((each) => each.facts.tag === tag)
    if (!front) return false
    const done = actOn(front, act)
    await this.#switch.look()
    return done
  }

  /** Every front back to how it was delivered. */
  async deliver(): Promise<void> {
    for (const front of this.#fronts) front.deliver()
    await this.#switch.look()
  }

  /** Loads the program of a controller; only one controller stands on the bench. */
  loadProgram(plannedAddress: string, tags: readonly PolledTag[]): void {
    const standsThere = this.#standIns.some(
      (each) => each.definition.tag === 'PLC-101' && each.definition.plannedAddress === plannedAddress,
    )
    if (standsThere) this.#program.load(tags)
  }

  list(): readonly StandInView[] {
    return this.#standIns.map((standIn) => ({
      tag: standIn.definition.tag,
      what: standIn.definition.what,
      plannedAddress: standIn.definition.plannedAddress,
      servedAt: `${standIn.host}:${standIn.port}`,
      faults: standIn.faults,
      requestCount: standIn.requestCount,
      state: standIn.definition.state(),
    }))
  }

  /** @returns false when there is no such stand-in */
  setFaults(tag: string, faults: Faults): boolean {
    const standIn = this.#standIns.find((each) => each.definition.tag === tag)
    if (standIn) standIn.faults = faults
    return standIn !== undefined
  }
}

/** Nobody is ever at this loopback address. */
const NOBODY = '127.255.255.253'

/** Ports below 1024 need rights: 502 is served at 1502, the others 2 000 higher. */
function benchPort(port: number): number {
  if (port === 502) return BENCH_MODBUS_PORT
  return port < 1024 ? port + 2000 : port
}

function actOn(front: FrontDevice, act: FrontAct): boolean {
  switch (act.act) {
    case 'power':
      front.setPower(act.on)
      return true
    case 'plug':
      front.plugged = act.on
      return true
    case 'press':
      return front.press(act.id, act.seconds)
    case 'turn':
      return front.turn(act.id, act.value)
  }
}

/** How often a serial socket looks whether its device runs, ms. */
const LOOKS_EVERY_MS = 50

/** A lead that is in while the device still starts: what is typed until then is lost, as on a real one. */
function talkOnceRunning(front: FrontDevice, talk: (socket: Socket) => void, socket: Socket): void {
  if (front.running) return talk(socket)
  const lose = () => undefined
  socket.on('data', lose)
  const timer = setInterval(() => {
    if (!front.running) return
    clearInterval(timer)
    socket.off('data', lose)
    talk(socket)
  }, LOOKS_EVERY_MS)
  timer.unref()
  socket.on('close', () => clearInterval(timer))
}
