import { Socket } from 'node:net'
import type { Problem } from '@calm/contract'

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

/** Line settings of a serial port. */
export interface SerialSettings {
  readonly baudRate: number
  readonly dataBits: 5 | 6 | 7 | 8
  readonly parity: 'none' | 'even' | 'odd'
  readonly stopBits: 1 | 2
}

/**
 * Reads settings in short.
 * @example serialSettings('9600 8N1') // 9 600 baud, 8 data bits, no parity, 1 stop bit
 */
export function serialSettings(text: string): SerialSettings | undefined {
  const found = /^(\d{2,7})\s+([5-8])([NEO])([12])$/i.exec(text.trim())
  if (!found) return undefined
  const parity = ({ N: 'none', E: 'even', O: 'odd' } as const)[(found[3] ?? 'N').toUpperCase() as 'N' | 'E' | 'O']
  return {
    baudRate: Number(found[1]),
    dataBits: Number(found[2]) as SerialSettings['dataBits'],
    parity,
    stopBits: Number(found[4]) as 1 | 2,
  }
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

/** Why a serial port did not open, in words that say what to do. */
export function serialProblem(path: string, message: string): Problem {
  const because = (what: string, expected: string): Problem => ({ what, where: 'via', expected, found: path })
  if (/no such file|cannot find|ENOENT|not found/i.test(message))
    return because(
      `There is no serial port ${path}.`,
      'the path of a port: plug the adapter in and look which one comes',
    )
  if (/lock|busy|in use|EBUSY/i.test(message))
    return because(`${path} is in use by another program.`, 'a port that nobody has open: close the other program')
  if (/permission|EACCES|access denied/i.test(message))
    return because(
      `This account may not open ${path}.`,
      'the right to it: on Linux the group dialout, then log in again',
    )
  return because(`${path} did not open: ${message}`, 'a serial port')
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

/** Serial ports of this laptop; a note where they cannot be listed: then a path is typed. */
export async function serialPorts(): Promise<{
  readonly ports: readonly { readonly path: string; readonly about: string }[]
  readonly note: string
}> {
  try {
    const { SerialPort } = await import('serialport')
    const list = await SerialPort.list()
    return {
      ports: list.map((port) => ({
        path: port.path,
        about: [port.manufacturer, port.serialNumber].filter(Boolean).join(' '),
      })),
      note: '',
    }
  } catch (reason) {
    const code = (reason as NodeJS.ErrnoException).code ?? String(reason)
    return { ports: [], note: `Serial ports cannot be listed here (${code}). Type the path of the port.` }
  }
}
