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
export type Answerer = (unit: number, request: ModbusRequest) => Answer | undefined

/** Serves Modbus TCP on one connection. What is not Modbus ends it, as most devices do it. */
export function serveModbus(socket: Socket, answer: Answerer): void {
  const framer = new TcpFramer()
  socket.setNoDelay(true)
  socket.on('error', () => socket.destroy())
  socket.on('data', (bytes) => {
    for (const chunk of framer.push(bytes)) {
      if ('broken' in chunk) return void socket.destroy()
      const frame = decodeTcpFrame(chunk.frame)
      if (!frame.ok) continue
      const { transaction, unit, pdu } = frame.value
      const reading = decodeRequest(pdu)
      const given = 'exception' in reading ? undefined : answer(unit, reading.request)
      if ('exception' in reading)
        socket.write(encodeTcpFrame(transaction, unit, encodeException(reading.functionCode, reading.exception)))
      else if (given) socket.write(encodeTcpFrame(transaction, unit, encodeResponse(reading.request, given)))
    }
  })
}
