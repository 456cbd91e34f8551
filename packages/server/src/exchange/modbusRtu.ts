import { decodeRtuResponse, encodeRtuRequest, RtuFramer, type ModbusRequest, type SerialUnit } from '@calm/core/modbus'
import { frameGapMs, type SerialSettings } from '@calm/core/serial'
import type { Protocol } from './protocol'

export interface RtuAsk {
  readonly unit: SerialUnit
  readonly request: ModbusRequest
}

/** An adapter hands on what it received in pieces: a shorter silence may be its own. Common practice, no source. */
const ADAPTER_MS = 20

/**
 * Modbus RTU on a serial line: one speaks at a time, silence ends a frame, and nothing tells a late answer from the
 * right one. So the line must have been silent before a question, and what arrives before it is dropped.
 */
export function modbusRtu(settings: SerialSettings): Protocol<RtuAsk> {
  const gap = Math.max(frameGapMs(settings), ADAPTER_MS)
  return {
    framer: () => new RtuFramer(),
    question: (sent) => ({
      bytes: encodeRtuRequest(sent),
      judge: (frame) => {
        const answer = decodeRtuResponse(sent, frame)
        return answer.ok ? { kind: 'answer', response: answer.value } : { kind: 'rejected', rejection: answer.refusal }
      },
    }),
    gapMs: gap,
    quietMs: gap,
    lateLooksRight: true,
    afterBroken: 'go-on',
  }
}
