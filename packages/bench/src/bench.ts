import type { Faults, StandInView } from '@calm/contract/live'
import { benchHost } from './addressBook'
import { controller, ControllerProgram, type Ask, type PolledTag } from './controller'
import { energyMeter } from './energyMeter'
import { StandIn } from './standIn'

/** Ports below 1024 need rights that a technician's account often lacks, so the bench serves 502 here. */
export const BENCH_MODBUS_PORT = 1502

/** All stand-ins of the bench. */
export class Bench {
  readonly #standIns: readonly StandIn[]
  readonly #program: ControllerProgram

  /**
   * @param ask how the controller's program reaches devices, by their planned address
   * @param clock milliseconds since 1970
   */
  constructor(ask: Ask, clock: () => number) {
    this.#program = new ControllerProgram(ask)
    this.#standIns = [controller(this.#program), energyMeter(clock)].map(
      (definition) => new StandIn(definition, benchHost(definition.plannedAddress)),
    )
  }

  async start(port = BENCH_MODBUS_PORT): Promise<void> {
    try {
      for (const standIn of this.#standIns) await standIn.start(port)
    } catch (reason) {
      await this.stop()
      throw reason
    }
    this.#program.start()
  }

  async stop(): Promise<void> {
    this.#program.stop()
    await Promise.all(this.#standIns.map((standIn) => standIn.stop()))
  }

  /** The address book: where a planned address and port are served. Nobody may be there, as in a real panel. */
  resolve(plannedAddress: string, port: number): { readonly host: string; readonly port: number } {
    const host = benchHost(plannedAddress)
    const standIn = this.#standIns.find((each) => each.host === host)
    if (port !== 502) return { host, port }
    return { host, port: standIn && standIn.port > 0 ? standIn.port : BENCH_MODBUS_PORT }
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
