import type { RequestHandler } from 'express'
import { Refused } from '../store'

/**
 * Lets through only requests that name this server by an allowed host, and that come from its own pages. Without it a
 * page elsewhere could make the browser of this laptop write to devices (DNS rebinding, cross-site requests).
 */
export function sameOrigin(allowedHosts: readonly string[]): RequestHandler {
  const allowed = new Set([...allowedHosts, 'localhost', '127.0.0.1', '[::1]'])
  const hostOf = (value: string) => value.replace(/:\d+$/, '')
  return (request, _response, next) => {
    const host = request.headers.host ?? ''
    if (!allowed.has(hostOf(host))) {
      throw new Refused(403, [
        { what: 'This name is not served here.', where: 'Host', expected: [...allowed].join(', '), found: host },
      ])
    }
    const { origin } = request.headers
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) {
      throw new Refused(403, [
        {
          what: 'Requests from other pages are not taken.',
          where: 'Origin',
          expected: `http://${host}`,
          found: origin,
        },
      ])
    }
    next()
  }
}
