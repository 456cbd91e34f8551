import { Socket } from 'node:net'
import type { Problem } from '@calm/contract'
import type { SerialSettings } from '@calm/core/serial'
import { serialProblem } from '../serial'

/** A two-way text connection to a device. */
export interface Transport {
  readonly write: (text: string) => void
  /** What was written and has not left yet. */
  readonly waitingBytes: () => number
  readonly close: () => void
}

export interface TransportEvents {
  readonly opened: () => void
  readonly text: (text: string) => void
  readonly problem: (problem: Problem) => void
  readonly closed: () => void
}

const CONNECT_MS = 3_000

/** A console over TCP. */
export function openTcp(host: string, port: number, events: TransportEvents): Transport {
  const socket = new Socket()
  const timer = setTimeout(() => socket.destroy(new Error('ETIMEDOUT')), CONNECT_MS)
  socket.once('connect', () => {
    clearTimeout(timer)
    events.opened()
  })
  socket.on('data', (bytes) => events.text(bytes.toString('latin1')))
  socket.on('error', (error: NodeJS.ErrnoException) => {
    events.problem({
      what: `${host}:${port} does not take a connection (${error.code ?? error.message}).`,
      where: 'via',
      expected: 'a console that listens there',
      found: `${host}:${port}`,
    })
  })
  socket.on('close', () => {
    clearTimeout(timer)
    events.closed()
  })
  socket.connect(port, host)
  return {
    write: (text) => socket.writable && socket.write(text, 'latin1'),
    waitingBytes: () => socket.writableLength,
    close: () => socket.destroy(),
  }
}

/** A console over a serial port. The driver is loaded when the first one is opened. */
export async function openSerial(path: string, settings: SerialSettings, events: TransportEvents): Promise<Transport> {
  const { SerialPort } = await import('serialport')
  const port = new SerialPort({ path, ...settings, autoOpen: false, lock: true })
  port.on('data', (bytes: Buffer) => events.text(bytes.toString('latin1')))
  port.on('error', (error) => events.problem(serialProblem(path, error.message)))
  port.on('close', () => events.closed())
  port.open((error) => {
    if (!error) return events.opened()
    events.problem(serialProblem(path, error.message))
    events.closed()
  })
  return {
    write: (text) => port.isOpen && port.write(Buffer.from(text, 'latin1')),
    waitingBytes: () => port.writableLength,
    // Closing a port that is just going away calls back with an error, which says nothing new.
    close: () => port.isOpen && port.close(() => undefined),
  }
}
