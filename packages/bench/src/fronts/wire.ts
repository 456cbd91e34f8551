import { createSocket, type Socket } from 'node:dgram'
import { parseIpv4 } from '@calm/core/address'
import { contextOf, isListIdentityRequest, leaseDiscover, listIdentityReply } from '@calm/core/discovery'
import { decode, encode, type Answer, type DecodedPacket } from 'dns-packet'
import type { FrontDevice } from './front'

/** Where something is sent on the bench instead of to everybody. */
export interface WirePlace {
  readonly host: string
  readonly port: number
}

/** How often a device without an address asks for one, ms. */
const ASKS_EVERY_MS = 1_000

/**
 * The wire of the bench: what is sent to everybody comes here, and each stand-in that hears it answers from its own
 * loopback address. Nothing leaves this machine.
 */
export class BenchWire {
  readonly #sockets: Socket[] = []
  readonly #leaseListeners = new Set<number>()
  #timer: NodeJS.Timeout | undefined
  #transaction = 1
  #places: { readonly identity: WirePlace; readonly name: WirePlace } | undefined

  constructor(
    readonly devices: readonly FrontDevice[],
    readonly around: {
      /** The loopback address that a device's own is served on. */
      readonly hostFor: (address: string) => string
      /** Whether the laptop's cable is where this device is heard. */
      readonly isHeard: (device: FrontDevice) => boolean
    },
  ) {}

  /** @param host a loopback address of this bench alone */
  async start(host: string): Promise<void> {
    const open = async (answer: (message: Buffer, socket: Socket, back: WirePlace) => void): Promise<WirePlace> => {
      const socket = createSocket('udp4')
      socket.unref()
      const bound = (await binds(socket, host)) ? host : (await binds(socket, '127.0.0.1'), '127.0.0.1')
      socket.on('message', (message, from) => answer(message, socket, { host: from.address, port: from.port }))
      socket.on('error', () => undefined)
      this.#sockets.push(socket)
      return { host: bound, port: socket.address().port }
    }
    this.#places = {
      identity: await open((message, socket, back) => this.#sayWho(message, socket, back)),
      name: await open((message, socket, back) => this.#sayNames(message, socket, back)),
    }
    this.#timer = setInterval(() => this.#askForLeases(), ASKS_EVERY_MS)
    this.#timer.unref()
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer)
    await Promise.all(this.#sockets.splice(0).map((socket) => new Promise<void>((done) => socket.close(() => done()))))
  }

  /** Where everybody is asked who is there, and for names; `undefined` while the bench does not run. */
  get places() {
    return this.#places
  }

  /** Requests for a lease go to this port of the laptop from now on. Returns what ends it. */
  listenForLeases(port: number): () => void {
    this.#leaseListeners.add(port)
    return () => this.#leaseListeners.delete(port)
  }

  #whoSpeaks(by: 'identity' | 'name'): readonly FrontDevice[] {
    return this.devices.filter(
      (device) => device.running && device.plugged && device.facts.speaks?.includes(by) && this.around.isHeard(device),
    )
  }

  #sayWho(message: Buffer, socket: Socket, back: WirePlace): void {
    if (!isListIdentityRequest(message)) return
    for (const device of this.#whoSpeaks('identity')) {
      const address = parseIpv4(device.address() ?? '')
      if (!address.ok) continue
      const { mac, model, firmware } = device.facts
      const [major = 1, minor = 0] = firmware.split('.').map(Number)
      const identity = {
        address: address.value,
        port: 44_818,
        vendor: 9_999,
        deviceType: 12,
        productCode: 1,
        revision: { major, minor },
        status: 0,
        serialNumber: Number.parseInt(mac.replaceAll(':', '').slice(-8), 16),
        productName: model,
        state: 3,
      }
      this.#answer(device, listIdentityReply(identity, contextOf(message)), socket, back)
    }
  }

  #sayNames(message: Buffer, socket: Socket, back: WirePlace): void {
    const asked = decoded(message)
    if (!asked?.questions?.some(({ name }) => name === '_http._tcp.local')) return
    for (const device of this.#whoSpeaks('name')) {
      const { model, serialNumber, firmware, mac } = device.facts
      const host = `${model.toLowerCase()}-${mac.slice(-5).replace(':', '').toLowerCase()}.local`
      const service = `${model}._http._tcp.local`
      const answers: Answer[] = [
        { type: 'PTR', name: '_http._tcp.local', data: service },
        { type: 'SRV', name: service, data: { target: host, port: 80 } },
        { type: 'TXT', name: service, data: [`model=${model}`, `serial=${serialNumber}`, `firmware=${firmware}`] },
        { type: 'A', name: host, data: device.address() ?? '0.0.0.0' },
      ]
      this.#answer(device, encode({ type: 'response', id: asked.id ?? 0, answers }), socket, back)
    }
  }

  /** From the device's own loopback address where the system has it, as a real answer comes from the device. */
  #answer(device: FrontDevice, bytes: Uint8Array, wire: Socket, { host, port }: WirePlace): void {
    const own = createSocket('udp4')
    own.on('error', () => undefined)
    void binds(own, this.around.hostFor(device.address() ?? '')).then((isBound) => {
      const from = isBound ? own : wire
      from.send(bytes, port, host, () => own.close())
    })
  }

  #askForLeases(): void {
    const asking = this.devices.filter(
      (device) =>
        device.power &&
        !device.running &&
        device.plugged &&
        device.facts.speaks?.includes('lease') &&
        this.around.isHeard(device),
    )
    const [socket] = this.#sockets
    for (const device of asking)
      for (const port of this.#leaseListeners)
        socket?.send(leaseDiscover(device.facts.mac, device.facts.model, this.#transaction++), port, '127.0.0.1')
  }
}

function decoded(message: Buffer): DecodedPacket | undefined {
  try {
    return decode(message)
  } catch {
    return undefined
  }
}

function binds(socket: Socket, host: string): Promise<boolean> {
  return new Promise((done) => {
    const failed = () => done(false)
    socket.once('error', failed)
    socket.bind({ address: host, port: 0 }, () => {
      socket.off('error', failed)
      done(true)
    })
  })
}
