import type { IncomingMessage, Server } from 'node:http'
import { formatIpv4, parseIpv4 } from '@calm/core/address'
import type { Problem } from '@calm/contract'
import type { Job } from '@calm/core/job'
import { portOf, presentOf } from '@calm/core/procedure'
import { WebSocketServer, type WebSocket } from 'ws'
import type { Bench } from '@calm/bench'
import { targetOf } from '../live'
import { keep, readWalk, type Store } from '../store'
import { Transcript } from './transcript'
import { openSerial, openTcp, serialSettings, type Transport, type TransportEvents } from './transport'

export interface ConsoleContext {
  readonly store: Store
  readonly jobOf: (jobId: string) => Promise<Job>
  readonly bench: Bench | undefined
  /** Who asks; `undefined` where nobody may. */
  readonly whoOf: (
    request: IncomingMessage,
  ) => Promise<{ readonly name: string; readonly mayChange: boolean } | undefined>
  readonly sameOrigin: (request: IncomingMessage) => boolean
}

/** What travels on the socket of a console, towards the page. */
type ToPage =
  | { readonly kind: 'open' }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'problem'; readonly problem: Problem }
  | { readonly kind: 'closed' }

const MOST_TYPED = 4_000

/** Serves consoles on `/api/jobs/JOB/console`; the text of each session is kept when it ends. */
export function serveConsoles(server: Server, context: ConsoleContext): () => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 16_384 })
  server.on('upgrade', (request, socket, head) => {
    const url = new URL(request.url ?? '/', 'http://local')
    const path = /^\/api\/jobs\/([0-9a-f-]{36})\/console$/.exec(url.pathname)
    const refuse = (status: string) => {
      socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\n\r\n`)
    }
    if (!path?.[1] || !context.sameOrigin(request)) return refuse('404 Not Found')
    const jobId = path[1]
    void context.whoOf(request).then(
      (who) => {
        if (!who) return refuse('401 Unauthorized')
        if (!who.mayChange) return refuse('403 Forbidden')
        sockets.handleUpgrade(
          request,
          socket,
          head,
          (web) => void openSession(context, web, jobId, url.searchParams, who.name),
        )
      },
      () => refuse('500 Internal Server Error'),
    )
  })
  return () => {
    for (const web of sockets.clients) web.terminate()
    sockets.close()
  }
}

async function openSession(
  context: ConsoleContext,
  web: WebSocket,
  jobId: string,
  query: URLSearchParams,
  who: string,
): Promise<void> {
  const tell = (message: ToPage) => web.readyState === web.OPEN && web.send(JSON.stringify(message))
  const transcript = new Transcript()
  let transport: Transport | undefined
  let kept = false
  const startedAt = context.store.clock()
  const via = query.get('via') ?? ''
  const keepText = async () => {
    if (kept || transcript.text.trim() === '') return
    kept = true
    const deviceId = query.get('device')
    await context.store.write(who, (tx) =>
      keep(tx, jobId, {
        deviceId,
        kind: 'console',
        title: `Console ${via}`,
        content: { via, startedAt, text: transcript.text },
      }),
    )
  }
  const events: TransportEvents = {
    opened: () => tell({ kind: 'open' }),
    text: (text) => {
      transcript.received(text)
      tell({ kind: 'text', text })
    },
    problem: (problem) => tell({ kind: 'problem', problem }),
    closed: () => {
      tell({ kind: 'closed' })
      void keepText().then(() => web.close())
    },
  }
  web.on('message', (data) => {
    const typed = readTyped(String(data))
    if (typed === undefined || !transport) return
    transcript.typed(typed)
    transport.write(typed)
  })
  web.on('close', () => {
    transport?.close()
    void keepText()
  })
  try {
    const job = await context.jobOf(jobId)
    transport = await openVia(context, job, via, events)
  } catch (reason) {
    const problem = reason instanceof ConsoleRefusal ? reason.problem : unforeseen(via)
    tell({ kind: 'problem', problem })
    web.close()
  }
}

const unforeseen = (via: string): Problem => ({
  what: 'The console did not open.',
  where: 'via',
  expected: 'a port or a device',
  found: via,
})

class ConsoleRefusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.what)
  }
}

/** @example 'serial:/dev/ttyUSB0:9600 8N1', 'tcp:10.20.40.61:23', 'bench:UPS-401' */
async function openVia(context: ConsoleContext, job: Job, via: string, events: TransportEvents): Promise<Transport> {
  const refuse = (what: string, expected: string): never => {
    throw new ConsoleRefusal({ what, where: 'via', expected, found: via })
  }
  const bench = /^bench:(.+)$/.exec(via)
  if (bench) {
    const front = job.mode === 'bench' ? context.bench?.fronts().find((each) => each.tag === bench[1]) : undefined
    const [host, port] = (front?.console ?? '').split(':')
    if (!host || !port)
      return refuse('There is no serial socket of that name on the bench.', 'a stand-in with a serial socket')
    return openTcp(host, Number(port), events)
  }
  const serial = /^serial:(.+):([^:]+)$/.exec(via)
  if (serial) {
    const settings = serialSettings(serial[2] ?? '')
    if (!settings) return refuse(`"${serial[2]}" is not the setting of a line.`, 'for example 9600 8N1')
    if (job.mode === 'bench')
      return refuse('On the bench no real port is opened.', 'a stand-in; or the job on the plant')
    return openSerial(serial[1] ?? '', settings, events)
  }
  const tcp = /^tcp:([\d.]+):(\d{1,5})$/.exec(via)
  if (!tcp) return refuse('That is not a way to a console.', 'a serial port, or an address and port')
  const [address, port] = [tcp[1] ?? '', Number(tcp[2])]
  const record = await readWalk(context.store.source.manager, job.id)
  const known = job.devices.flatMap((device) => {
    const present = presentOf(job, record, device)
    return [portOf(device)?.address ?? '', present ? formatIpv4(present.address) : '']
  })
  if (!parseIpv4(address).ok || port < 1 || port > 65_535 || !known.includes(address))
    return refuse(
      'A console goes to a device of this job only.',
      'the present or planned address of one of its devices',
    )
  const target = targetOf(context.bench, job.mode, address, port)
  return target ? openTcp(target.host, target.port, events) : refuse('The bench is not running.', 'the bench')
}

function readTyped(text: string): string | undefined {
  try {
    const message = JSON.parse(text) as { kind?: unknown; text?: unknown }
    return message.kind === 'type' && typeof message.text === 'string' ? message.text.slice(0, MOST_TYPED) : undefined
  } catch {
    return undefined
  }
}
