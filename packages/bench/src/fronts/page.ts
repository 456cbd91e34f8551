import type { IncomingMessage, ServerResponse } from 'node:http'
import { parseIpv4, parseMask, subnetOf, contains } from '@calm/core/address'

const escaped = (text: string) => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`)

export interface PageSettings {
  readonly address: string
  readonly mask: string
  readonly gateway: string
}

/** Why settings cannot be taken; `undefined` when they can. */
export function refusedSettings({ address, mask, gateway }: PageSettings): string | undefined {
  const read = parseIpv4(address)
  if (!read.ok) return read.refusal.what
  const prefix = parseMask(mask)
  if (!prefix.ok) return prefix.refusal.what
  if (gateway.trim() === '') return undefined
  const router = parseIpv4(gateway)
  if (!router.ok) return router.refusal.what
  return contains(subnetOf(read.value, prefix.value), router.value) ? undefined : 'The gateway lies outside the subnet.'
}

/** The plain page of a small device: what it is, and a form for its address. */
export function serveSettingsPage(
  request: IncomingMessage,
  response: ServerResponse,
  page: {
    readonly title: string
    readonly lines: readonly string[]
    readonly now: PageSettings
    /** Settings in order were sent: what becomes of them. */
    readonly write: (settings: PageSettings) => { readonly say: string } | { readonly refused: string }
  },
): void {
  const show = (status: number, settings: PageSettings, say: string) => {
    const field = (name: keyof PageSettings, label: string) =>
      `<p><label>${label} <input name="${name}" value="${escaped(settings[name])}"></label></p>`
    response.writeHead(status, { 'content-type': 'text/html; charset=utf-8' }).end(
      `<!doctype html><html lang="en"><title>${escaped(page.title)}</title><body style="font:16px sans-serif;margin:2em">
<h1>${escaped(page.title)}</h1>${page.lines.map((line) => `<p>${escaped(line)}</p>`).join('')}
<p role="status"><b>${escaped(say)}</b></p><form method="post" action="/">${field('address', 'Address')}${field('mask', 'Subnet mask')}${field('gateway', 'Gateway')}
<p><button>Write to the device</button></p></form></body></html>`,
    )
  }
  if (request.method !== 'POST') return show(200, page.now, '')
  let body = ''
  request.on('data', (chunk: Buffer) => {
    body += chunk.toString('latin1')
    if (body.length > 4_000) request.destroy()
  })
  request.on('end', () => {
    const form = new URLSearchParams(body)
    const typed = {
      address: form.get('address') ?? '',
      mask: form.get('mask') ?? '',
      gateway: form.get('gateway') ?? '',
    }
    const refused = refusedSettings(typed)
    if (refused) return show(400, typed, refused)
    const done = page.write(typed)
    if ('refused' in done) return show(409, typed, done.refused)
    show(200, typed, done.say)
  })
}
