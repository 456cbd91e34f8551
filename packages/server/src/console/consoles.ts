import type { IncomingMessage, Server } from 'node:http'
import type { Duplex } from 'node:stream'
import { plainText } from '@calm/core/units'
import { WebSocketServer } from 'ws'
import { openSession, type Session, type SessionContext } from './session'

export interface ConsoleContext extends SessionContext {
  /** Who asks; `undefined` where nobody may. */
  readonly whoOf: (
    request: IncomingMessage,
  ) => Promise<{ readonly name: string; readonly mayChange: boolean } | undefined>
  readonly sameOrigin: (request: IncomingMessage) => boolean
  /** Closes what is open by the session of a request when that ends. */
  readonly whenEnded: (request: IncomingMessage, close: () => void) => () => void
}

/** A message of a page is one key or one pasted line; consoles that are open at once are few. */
const MOST_MESSAGE_BYTES = 16_384
const MOST_CONSOLES = 16

/** Serves consoles on `/api/jobs/JOB/console`; the text of each session is kept when it ends. */
export function serveConsoles(server: Server, context: ConsoleContext): () => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: MOST_MESSAGE_BYTES })
  server.on('upgrade', (request, socket, head) => {
    // Whoever asks may be gone at any moment: a reset here would otherwise end the whole program.
    socket.on('error', () => socket.destroy())
    void admit(context, sockets, request).then(
      (admitted) => {
        if (socket.destroyed) return
        if (typeof admitted === 'string') return refuse(socket, admitted)
        sockets.handleUpgrade(request, socket, head, (web) => {
          // Who is logged out types nowhere any more: what is on its way is not taken.
          const forget = context.whenEnded(request, () => {
            web.removeAllListeners('message')
            web.close(1008, 'The session has ended.')
          })
          web.once('close', forget)
          void openSession(context, web, admitted)
        })
      },
      (reason: unknown) => {
        context.log.error({ err: reason }, 'console not opened')
        refuse(socket, '500 Internal Server Error')
      },
    )
  })
  return () => {
    for (const web of sockets.clients) web.terminate()
    sockets.close()
  }
}

function refuse(socket: Duplex, status: string): void {
  if (socket.destroyed) return
  socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n`)
  setTimeout(() => socket.destroy(), 1_000).unref()
}

/** Who opens which console; a status where nobody may. Host and origin are looked at before anything else is read. */
async function admit(
  context: ConsoleContext,
  sockets: WebSocketServer,
  request: IncomingMessage,
): Promise<Session | string> {
  if (!context.sameOrigin(request)) return '403 Forbidden'
  const url = URL.canParse(request.url ?? '', 'http://local') ? new URL(request.url ?? '', 'http://local') : undefined
  if (!url) return '400 Bad Request'
  const jobId = /^\/api\/jobs\/([0-9a-f-]{36})\/console$/.exec(url.pathname)?.[1]
  if (!jobId) return '404 Not Found'
  const who = await context.whoOf(request)
  if (!who) return '401 Unauthorized'
  if (!who.mayChange) return '403 Forbidden'
  if (sockets.clients.size >= MOST_CONSOLES) return '503 Service Unavailable'
  const text = (name: string) => plainText(url.searchParams.get(name) ?? '').slice(0, 200)
  return { jobId, who: who.name, via: text('via'), deviceId: text('device') }
}
