import { createServer as createHttpServer } from 'node:http'
import { createServer, type Server, type Socket } from 'node:net'
import { noWireFaults, serveModbus } from '../modbusService'
import type { FrontDevice, Service } from './front'

interface Listener {
  readonly server: Server
  readonly sockets: Map<Socket, FrontDevice>
  port: number
  host: string
  holders: readonly FrontDevice[]
  turn: number
}

/** How soon a change of power, plug or address is heard on the bench. */
const LOOK_MS = 100

/**
 * The switch of the bench: for every address that a running device holds, a listener on its loopback address. Where two
 * hold one address, connections go now to the one and now to the other, as on a real switch.
 */
export class BenchSwitch {
  readonly #listeners = new Map<string, Listener>()
  readonly #opening = new Map<string, Promise<void>>()
  #timer: NodeJS.Timeout | undefined

  constructor(
    readonly devices: readonly FrontDevice[],
    readonly place: {
      /** The port on the bench for a planned one; 0 for any free one. */
      readonly portFor: (planned: number) => number
      /** The loopback address that a planned one is served on. */
      readonly hostFor: (planned: string) => string
    },
  ) {}

  /** Begins to follow the devices; whoever runs already is listened for when this is done. */
  async start(): Promise<void> {
    this.#timer = setInterval(() => void this.look(), LOOK_MS)
    this.#timer.unref()
    await this.look()
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer)
    await Promise.all([...this.#opening.values()])
    await Promise.all([...this.#listeners.keys()].map((key) => this.#close(key)))
  }

  /** Where a device at this address is served; `undefined` while nobody holds it. */
  placeOf(address: string, port: number): { readonly host: string; readonly port: number } | undefined {
    const listener = this.#listeners.get(`${address}:${port}`)
    return listener && listener.port > 0 ? { host: listener.host, port: listener.port } : undefined
  }

  /** Who holds an address now and is on the switch. */
  holdersOf(address: string): readonly FrontDevice[] {
    return this.devices.filter((device) => device.running && device.plugged && device.address() === address)
  }

  /** Opens and closes listeners as devices come and go. */
  async look(): Promise<void> {
    const wanted = new Map<string, { service: Service; holders: FrontDevice[]; address: string }>()
    for (const device of this.devices) {
      const address = device.running && device.plugged ? device.address() : undefined
      if (address === undefined) continue
      for (const service of device.services()) {
        const key = `${address}:${service.port}`
        const known = wanted.get(key)
        if (known) known.holders.push(device)
        else wanted.set(key, { service, holders: [device], address })
      }
    }
    for (const [key, listener] of this.#listeners) {
      const now = wanted.get(key)?.holders ?? []
      for (const [socket, device] of listener.sockets) if (!now.includes(device)) socket.destroy()
      listener.holders = now
      if (now.length === 0) await this.#close(key)
    }
    for (const [key, { service, holders, address }] of wanted)
      if (!this.#listeners.has(key) && !this.#opening.has(key)) {
        const opening = this.#open(key, service, holders, address).finally(() => this.#opening.delete(key))
        this.#opening.set(key, opening)
        await opening
      }
  }

  async #open(key: string, service: Service, holders: readonly FrontDevice[], address: string): Promise<void> {
    const listener: Listener = {
      server: createServer(),
      sockets: new Map(),
      port: 0,
      host: this.place.hostFor(address),
      holders,
      turn: 0,
    }
    listener.server.on('connection', (socket: Socket) => {
      const device = listener.holders[listener.turn++ % Math.max(1, listener.holders.length)]
      if (!device) return void socket.destroy()
      listener.sockets.set(socket, device)
      socket.on('close', () => listener.sockets.delete(socket))
      socket.on('error', () => socket.destroy())
      serve(socket, device, service)
    })
    this.#listeners.set(key, listener)
    for (const [host, port] of [
      [listener.host, this.place.portFor(service.port)],
      [listener.host, 0],
      // Some systems have the one loopback address only.
      ['127.0.0.1', 0],
    ] as const) {
      if (await listens(listener.server, host, port)) {
        const bound = listener.server.address()
        listener.host = host
        listener.port = typeof bound === 'object' && bound ? bound.port : 0
        return
      }
    }
  }

  async #close(key: string): Promise<void> {
    const listener = this.#listeners.get(key)
    this.#listeners.delete(key)
    if (!listener) return
    for (const socket of listener.sockets.keys()) socket.destroy()
    await new Promise<void>((done) => listener.server.close(() => done()))
  }
}

function serve(socket: Socket, device: FrontDevice, service: Service): void {
  if (service.kind === 'modbus')
    return serveModbus(socket, (unit, request) => device.answer(unit, request), {
      ...noWireFaults,
      delayMs: (unit, request) => device.delayMs(unit, request),
    })
  if (service.kind === 'text') return service.open(socket)
  const pages = createHttpServer((request, response) =>
    device.servePage(request, response.setHeader('connection', 'close')),
  )
  pages.emit('connection', socket)
}

function listens(server: Server, host: string, port: number): Promise<boolean> {
  return new Promise((done) => {
    const failed = () => done(false)
    server.once('error', failed)
    server.listen(port, host, () => {
      server.off('error', failed)
      done(true)
    })
  })
}
