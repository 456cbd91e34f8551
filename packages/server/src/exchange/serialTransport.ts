import type { SerialPort } from 'serialport'
import type { SerialSettings } from '@calm/core/serial'
import { serialProblem } from '../serial'
import type { OpenTransport } from './transport'

/** A channel over a serial port of this laptop. The driver is loaded when the first one is opened. */
export function serialTransport(path: string, settings: SerialSettings): OpenTransport {
  return (events) => {
    let port: SerialPort | undefined
    let closed = false
    const fail = (message: string) => {
      const { what, expected } = serialProblem(path, message)
      if (!closed) events.failed(`${what} Expected: ${expected}.`)
    }
    void import('serialport')
      .then(({ SerialPort: Port }) => {
        if (closed) return
        port = new Port({ path, ...settings, autoOpen: false, lock: true })
        port.on('data', (bytes: Buffer) => events.bytes(bytes))
        port.on('error', () => undefined)
        port.on('close', () => events.closed())
        port.open((error) => (error ? fail(error.message) : closed ? port?.close() : events.opened()))
      })
      .catch((reason: unknown) => fail(reason instanceof Error ? reason.message : String(reason)))
    return {
      send: (bytes) => void port?.write(Buffer.from(bytes)),
      close: () => {
        closed = true
        // Closing a port that is just going away calls back with an error, which says nothing new.
        if (port?.isOpen) port.close(() => undefined)
      },
    }
  }
}
