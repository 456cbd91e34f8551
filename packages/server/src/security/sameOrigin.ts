import type { IncomingMessage } from 'node:http'
import type { RequestHandler } from 'express'
import type { Problem } from '@calm/contract'
import { Refused } from '../store'

/**
 * Lets through only requests that name this server by an allowed host, and that come from its own pages. Without it a
 * page elsewhere could make the browser of this laptop write to devices (DNS rebinding, cross-site requests).
 */
export function sameOrigin(allowedHosts: readonly string[]): RequestHandler {
  return (request, _response, next) => {
    const problem = foreignTo(allowedHosts, request)
    if (problem) throw new Refused(403, [problem])
    next()
  }
}

/** The same for a request that becomes a socket. */
export const isSameOrigin = (request: IncomingMessage, allowedHosts: readonly string[]): boolean =>
  request.headers.origin !== undefined && foreignTo(allowedHosts, request) === undefined

const isApi = (request: IncomingMessage): boolean => /^\/api(\/|$|\?)/.test(request.url ?? '')

function foreignTo(allowedHosts: readonly string[], request: IncomingMessage): Problem | undefined {
  const allowed = new Set([...allowedHosts, 'localhost', '127.0.0.1', '[::1]'])
  const host = request.headers.host ?? ''
  if (!allowed.has(host.replace(/:\d+$/, '')))
    return { what: 'This name is not served here.', where: 'Host', expected: [...allowed].join(', '), found: host }
  const site = request.headers['sec-fetch-site']
  // A link from elsewhere may open the page itself; nothing else of ours is for other sites.
  const opensPage = request.headers['sec-fetch-dest'] === 'document' && request.method === 'GET'
  if (typeof site === 'string' && site !== 'same-origin' && site !== 'none' && !(opensPage && !isApi(request)))
    return {
      what: 'Requests from other pages are not taken.',
      where: 'Sec-Fetch-Site',
      expected: 'same-origin',
      found: site,
    }
  const { origin } = request.headers
  if (origin === undefined || origin === `http://${host}` || origin === `https://${host}`) return undefined
  return {
    what: 'Requests from other pages are not taken.',
    where: 'Origin',
    expected: `http://${host}`,
    found: origin,
  }
}
