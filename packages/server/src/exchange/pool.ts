import type { ModbusRequest, TcpUnit } from '@calm/core/modbus'
import { Exchange, type ExchangeOptions } from './exchange'
import type { Outcome } from './outcome'

/** A time that is usual for Modbus TCP on a local network. Common practice, no source. */
export const RESPONSE_TIMEOUT_MS = 1000
const CONNECT_TIMEOUT_MS = 1500
const IDLE_MS = 10_000

/** One connection for each device that is asked, shared by everything that asks it. */
export class ExchangePool {
  readonly #exchanges = new Map<string, Exchange>()

  constructor(
    readonly timing: Partial<Pick<ExchangeOptions, 'connectTimeoutMs' | 'responseTimeoutMs' | 'idleMs'>> = {},
  ) {}

  ask(
    target: { readonly host: string; readonly port: number },
    unit: TcpUnit,
    request: ModbusRequest,
    signal?: AbortSignal,
  ): Promise<Outcome> {
    const key = `${target.host}:${target.port}`
    let exchange = this.#exchanges.get(key)
    if (!exchange) {
      exchange = new Exchange({
        ...target,
        connectTimeoutMs: CONNECT_TIMEOUT_MS,
        responseTimeoutMs: RESPONSE_TIMEOUT_MS,
        idleMs: IDLE_MS,
        ...this.timing,
      })
      this.#exchanges.set(key, exchange)
    }
    return exchange.ask(unit, request, signal)
  }

  /** Asks once over a connection of its own, with short times: for looking who is there. */
  async askOnce(
    target: { readonly host: string; readonly port: number },
    unit: TcpUnit,
    request: ModbusRequest,
    signal?: AbortSignal,
  ): Promise<Outcome> {
    const exchange = new Exchange({ ...target, connectTimeoutMs: 600, responseTimeoutMs: 600, idleMs: 1_000 })
    try {
      return await exchange.ask(unit, request, signal)
    } finally {
      exchange.close()
    }
  }

  close(): void {
    for (const exchange of this.#exchanges.values()) exchange.close()
    this.#exchanges.clear()
  }
}
