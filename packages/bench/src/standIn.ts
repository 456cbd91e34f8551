import { createServer, type Server, type Socket } from 'node:net'
import type { Faults } from '@calm/contract/live'
import type { Answer, ModbusRequest } from '@calm/core/modbus'
import { noFaults, SLOW_MS } from './faults'
import { serveModbus } from './modbusService'

/** What a stand-in is and how it answers. */
export interface StandInDefinition {
  readonly tag: string
  readonly what: string
  /** The address that the plan gives it, for example 10.20.40.50. */
  readonly plannedAddress: string
  /** Units it answers for; 255 and 0 mean the device itself. */
  readonly units: readonly number[]
  readonly answer: (request: ModbusRequest, faults: Faults) => Answer
  /** One line for the bench page. */
  readonly state: () => string
}

/** A simulated device: a real Modbus TCP server on a loopback address, with switches for what goes wrong in the field. */
export class StandIn {
  faults: Faults = noFaults
  requestCount = 0
  readonly #sockets = new Set<Socket>()
  #server: Server | undefined

  constructor(
    readonly definition: StandInDefinition,
    readonly host: string,
  ) {}

  /** The port it listens on; 0 while it does not. */
  get port(): number {
    const bound = this.#server?.address()
    return typeof bound === 'object' && bound ? bound.port : 0
  }

  /** Listens on the port asked for, or on any free one where that is taken. */
  async start(port: number): Promise<void> {
    try {
      await this.#listen(port)
    } catch (reason) {
      if (port === 0 || (reason as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw reason
      await this.#listen(0)
    }
  }

  async stop(): Promise<void> {
    const server = this.#server
    this.#server = undefined
    if (!server) return
    await new Promise<void>((done) => {
      server.close(() => done())
      for (const socket of this.#sockets) socket.destroy()
    })
  }

  #listen(port: number): Promise<void> {
    const server = createServer((socket) => this.#serve(socket))
    return new Promise((done, fail) => {
      server.once('error', fail)
      server.listen(port, this.host, () => {
        this.#server = server
        done()
      })
    })
  }

  #serve(socket: Socket): void {
    this.#sockets.add(socket)
    socket.on('close', () => this.#sockets.delete(socket))
    serveModbus(
      socket,
      (_unit, request) => (this.faults.exception2 ? { exception: 2 } : this.definition.answer(request, this.faults)),
      {
        hears: (unit) => {
          this.requestCount += 1
          return !this.faults.silent && this.definition.units.includes(unit)
        },
        unit: (unit) => (this.faults.wrongUnit ? (unit + 1) % 256 : unit),
        delayMs: () => (this.faults.slow ? SLOW_MS : 0),
      },
    )
  }
}
