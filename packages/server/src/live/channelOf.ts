import { formatIpv4 } from '@calm/core/address'
import type { Bench } from '@calm/bench'
import type { Mode } from '@calm/core/job'
import type { ModbusRequest } from '@calm/core/modbus'
import type { Way } from '@calm/core/terms'
import { rtuChannel, tcpChannel, type ExchangePool, type Outcome } from '../exchange'
import { serialSettings } from '../serial'
import { targetOf, targetText } from './addressBook'

/** Somewhere that can be asked: what is asked there, by whatever protocol, is nobody else's business. */
export interface Asking {
  /** Where the request goes as planned, and where that is served. */
  readonly asked: string
  readonly servedAt: string
  readonly ask: (pool: ExchangePool, request: ModbusRequest, signal?: AbortSignal) => Promise<Outcome>
}

/** The planned place of a way, in words. */
export const wayText = (way: Way): string =>
  way.protocol === 'modbus-tcp' ? `${formatIpv4(way.address)}:${way.port}` : `${way.line}, ${way.path}`

/**
 * The channel that a way goes over, with what is said on it; or why there is none. Readings and subscriptions need no
 * more than this: another protocol is another branch here.
 */
export function askingOf(bench: Bench | undefined, mode: Mode, way: Way): Asking | { readonly missing: string } {
  const asked = wayText(way)
  if (way.protocol === 'modbus-tcp') {
    const target = targetOf(bench, mode, formatIpv4(way.address), way.port)
    if (!target) return { missing: 'The bench is not running.' }
    const channel = tcpChannel(target)
    return {
      asked,
      servedAt: targetText(target),
      ask: (pool, request, signal) => pool.ask(channel, { unit: way.unit, request }, signal),
    }
  }
  if (mode === 'bench') return { missing: 'On the bench nobody is at a serial port. Its stand-in is behind a gateway.' }
  const settings = serialSettings(way.settings)
  if (!settings) return { missing: `The settings of ${way.line}, "${way.settings}", cannot be read: 9600 8N1 can.` }
  const channel = rtuChannel(way.path, settings)
  return {
    asked,
    servedAt: `${way.path}, ${way.settings}`,
    ask: (pool, request, signal) => pool.ask(channel, { unit: way.unit, request }, signal),
  }
}
