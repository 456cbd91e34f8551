import { AwakeTimer } from './awakeTimer'
import type { OpenTransport, Transport, TransportEvents } from './transport'

/**
 * Opens a channel, and does not wait for it forever: one of `opened` and `failed` is told, once, unless it is closed
 * before. What failed is closed.
 * @param timeoutMs milliseconds that the other end has to take the connection
 */
export function openWithin(open: OpenTransport, timeoutMs: number, events: TransportEvents): Transport {
  let isSettled = false
  const settle = (tell: () => void) => {
    if (isSettled) return
    isSettled = true
    timer.stop()
    tell()
  }
  const fail = (reason: string) =>
    settle(() => {
      transport.close()
      events.failed(reason)
    })
  const timer = new AwakeTimer(timeoutMs, () => fail(`nothing answered within ${timeoutMs} ms.`))
  const transport = open({ ...events, opened: () => settle(events.opened), failed: fail })
  return {
    send: transport.send,
    close: () => {
      settle(() => undefined)
      transport.close()
    },
  }
}
