import type { Channel } from './channel'
import { Exchange, type ExchangeTiming } from './exchange'
import type { Outcome } from './outcome'

/** A time that is usual on a local network and on a serial line. Common practice, no source. */
export const RESPONSE_TIMEOUT_MS = 1000
const usual: ExchangeTiming = { connectTimeoutMs: 1500, responseTimeoutMs: RESPONSE_TIMEOUT_MS, idleMs: 10_000 }
/** For looking who is there. */
const short: ExchangeTiming = { connectTimeoutMs: 600, responseTimeoutMs: 600, idleMs: 1_000 }

/** One exchange for each channel that is asked, shared by everything that asks it. */
export class ExchangePool {
  readonly #exchanges = new Map<string, { close: () => void }>()

  constructor(readonly timing: Partial<ExchangeTiming> = {}) {}

  ask<A>(channel: Channel<A>, ask: A, signal?: AbortSignal): Promise<Outcome> {
    // By its key a channel is always of one kind: what is asked on it has always one type.
    let exchange = this.#exchanges.get(channel.key) as Exchange<A> | undefined
    if (!exchange) {
      exchange = new Exchange(channel.open, channel.protocol(), { ...usual, ...this.timing })
      this.#exchanges.set(channel.key, exchange)
    }
    return exchange.ask(ask, signal)
  }

  /** Asks once over a connection of its own, with short times: for looking who is there. */
  async askOnce<A>(channel: Channel<A>, ask: A, signal?: AbortSignal): Promise<Outcome> {
    const exchange = new Exchange(channel.open, channel.protocol(), short)
    try {
      return await exchange.ask(ask, signal)
    } finally {
      exchange.close()
    }
  }

  close(): void {
    for (const exchange of this.#exchanges.values()) exchange.close()
    this.#exchanges.clear()
  }
}
