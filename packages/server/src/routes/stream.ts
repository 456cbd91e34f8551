import { api } from '@calm/contract/api'
import { Router } from 'express'
import type { AppContext } from './context'

const HEARTBEAT_MS = 15_000

/** One stream for each page: tells that the job changed, and the readings of the handshake that is watched. */
export function streamRoutes(app: AppContext): Router {
  const routes = Router()
  routes.get(api.stream.path, async (request, response) => {
    const { jobId } = request.params
    await app.jobs.get(jobId)
    if (request.method === 'HEAD') return void response.type('text/event-stream').end()
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      connection: 'keep-alive',
    })
    const send = (event: string, content: unknown) => {
      // A page that does not read fast enough misses readings rather than filling the memory.
      if (response.writableLength < 256 * 1024) response.write(`event: ${event}\ndata: ${JSON.stringify(content)}\n\n`)
    }
    const handshakeId = typeof request.query.live === 'string' ? request.query.live : ''
    const stops = [
      app.store.onChange((changed, page) => changed === jobId && send('changed', { jobId, page })),
      // Who is logged out hears nothing more.
      app.sessions.whenEnded(request.headers.cookie, () => response.end()),
      app.waits.onRing((rung, ring) => rung === jobId && send('ring', ring)),
    ]
    const heartbeat = setInterval(() => {
      if (app.guarded && !app.sessions.find(request.headers.cookie)) response.end()
      else response.write(': still here\n\n')
    }, HEARTBEAT_MS)
    response.on('close', () => {
      clearInterval(heartbeat)
      for (const stop of stops.splice(0)) stop()
      response.end()
    })
    // Listened to first, then told how far the job is: a page that knows less catches up, and nothing falls between.
    send('hello', { jobId, revision: await app.store.revisions.get(jobId) })
    if (handshakeId && !response.destroyed)
      stops.push(app.live.watch(jobId, handshakeId, (reading) => send('reading', reading)))
  })
  return routes
}
