import {
  decodeRtuResponse,
  encodeRtuRequest,
  protocolAddress,
  RtuFramer,
  type ModbusRequest,
  type SerialUnit,
} from '@calm/core/modbus'
import { frameGapMs, type SerialSettings } from '@calm/core/serial'
import type { Protocol } from './protocol'

export interface RtuAsk {
  readonly unit: SerialUnit
  readonly request: ModbusRequest
}

/** An adapter hands on what it received in pieces: a shorter silence may be its own. Common practice, no source. */
const ADAPTER_MS = 20

/**
 * The same registers but for the last one, where there are several: the answer has another length, and nothing is read
 * that was not read anyhow. Else who the unit is, by a function of its own; one that does not know it says so, by that
 * function too.
 */
function markerOf(request: ModbusRequest): ModbusRequest {
  if ((request.code === 3 || request.code === 4) && request.count > 1) return { ...request, count: request.count - 1 }
  if (request.code === 43) return { code: 3, address: protocolAddress(0), count: 1 }
  return { code: 43, category: 'regular', object: 0 }
}

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
    marker: ({ unit, request }) => ({ unit, request: markerOf(request) }),
    afterBroken: 'go-on',
  }
}
