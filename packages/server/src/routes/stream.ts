import { Router } from 'express'
import type { AppContext } from './context'
import { partOf } from './input'

const HEARTBEAT_MS = 15_000

/** One stream for each page: tells that the job changed, and the readings of the handshake that is watched. */
export function streamRoutes(app: AppContext): Router {
  const routes = Router()
  routes.get('/jobs/:jobId/stream', async (request, response) => {
    const jobId = partOf(request, 'jobId')
    await app.jobs.get(jobId)
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      connection: 'keep-alive',
    })
    const send = (event: string, content: unknown) => {
      // A page that does not read fast enough misses readings rather than filling the memory.
      if (response.writableLength < 256 * 1024) response.write(`event: ${event}\ndata: ${JSON.stringify(content)}\n\n`)
    }
    send('hello', { jobId })
    const stopChanges = app.store.onChange((changed, page) => changed === jobId && send('changed', { jobId, page }))
    const handshakeId = typeof request.query.live === 'string' ? request.query.live : ''
    const stopLive = handshakeId
      ? app.live.watch(jobId, handshakeId, (reading) => send('reading', reading))
      : () => undefined
    const stopRings = app.waits.onRing((rung, ring) => rung === jobId && send('ring', ring))
    const heartbeat = setInterval(() => response.write(': still here\n\n'), HEARTBEAT_MS)
    request.on('close', () => {
      clearInterval(heartbeat)
      stopChanges()
      stopLive()
      stopRings()
      response.end()
    })
  })
  return routes
}
