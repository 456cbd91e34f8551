import { Socket } from 'node:net'
import type { OpenTransport } from './transport'

/** A channel over TCP. Both ends may speak at any time. */
export function tcpTransport(host: string, port: number): OpenTransport {
  return (events) => {
    const socket = new Socket()
    let open = false
    socket.setNoDelay(true)
    socket.once('connect', () => {
      open = true
      events.opened()
    })
    socket.on('data', events.bytes)
    socket.on('error', (error: NodeJS.ErrnoException) => {
      if (!open) events.failed(connectionReason(error))
      socket.destroy()
    })
    socket.on('close', () => open && events.closed())
    socket.connect(port, host)
    return { send: (bytes) => void socket.write(bytes), close: () => void socket.destroy() }
  }
}

function connectionReason(error: NodeJS.ErrnoException): string {
  switch (error.code) {
    case 'ECONNREFUSED':
      return 'something is at this address, but nothing listens on this port.'
    case 'EHOSTUNREACH':
    case 'ENETUNREACH':
      return 'this laptop has no way to this address.'
    case 'ETIMEDOUT':
      return 'nothing answered.'
    default:
      return `${error.message}.`
  }
}
