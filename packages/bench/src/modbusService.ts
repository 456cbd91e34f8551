import type { Socket } from 'node:net'
import {
  decodeRequest,
  decodeTcpFrame,
  encodeException,
  encodeResponse,
  encodeTcpFrame,
  TcpFramer,
  type Answer,
  type ModbusRequest,
} from '@calm/core/modbus'

/** What answers Modbus requests; `undefined` for a unit that is not there: then nothing is sent. */
type Answerer = (unit: number, request: ModbusRequest) => Answer | undefined

/** What goes wrong on the wire; asked for each frame. */
interface WireFaults {
  /** Whether a frame for this unit is answered at all. */
  readonly hears: (unit: number) => boolean
  /** The unit that the answer names. */
  readonly unit: (unit: number) => number
  readonly delayMs: (unit: number, request: ModbusRequest) => number
}

/** Everything as it should be. */
export const noWireFaults: WireFaults = { hears: () => true, unit: (unit) => unit, delayMs: () => 0 }

/** Serves Modbus TCP on one connection. What is not Modbus ends it, as most devices do it. */
export function serveModbus(socket: Socket, answer: Answerer, faults: WireFaults = noWireFaults): void {
  const framer = new TcpFramer()
  socket.setNoDelay(true)
  socket.on('error', () => socket.destroy())
  socket.on('data', (bytes) => {
    for (const chunk of framer.push(bytes)) {
      if ('broken' in chunk) return void socket.destroy()
      const frame = decodeTcpFrame(chunk.frame)
      if (!frame.ok) continue
      const { transaction, unit, pdu } = frame.value
      if (!faults.hears(unit)) continue
      const reading = decodeRequest(pdu)
      const given = 'exception' in reading ? undefined : answer(unit, reading.request)
      const reply =
        'exception' in reading
          ? encodeException(reading.functionCode, reading.exception)
          : given && encodeResponse(reading.request, given)
      if (!reply) continue
      const frameOut = encodeTcpFrame(transaction, faults.unit(unit), reply)
      const delay = 'exception' in reading ? 0 : faults.delayMs(unit, reading.request)
      if (delay > 0) setTimeout(() => socket.writable && socket.write(frameOut), delay).unref()
      else socket.write(frameOut)
    }
  })
}
