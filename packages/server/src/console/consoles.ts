import type { IncomingMessage, Server } from 'node:http'
import type { Duplex } from 'node:stream'
import { formatIpv4, parseIpv4 } from '@calm/core/address'
import type { Problem } from '@calm/contract'
import type { Job } from '@calm/core/job'
import { portOf, presentOf } from '@calm/core/procedure'
import { plainText } from '@calm/core/units'
import type { Logger } from 'pino'
import { WebSocketServer, type WebSocket } from 'ws'
import type { Bench } from '@calm/bench'
import { targetOf } from '../live'
import { isDiskFull, keep, type Store } from '../store'
import { Transcript } from './transcript'
import { serialSettings } from '../serial'
import { openSerial, openTcp, type Transport, type TransportEvents } from './transport'

export interface ConsoleContext {
  readonly store: Store
  readonly jobOf: (jobId: string) => Promise<Job>
  readonly bench: Bench | undefined
  /** Who asks; `undefined` where nobody may. */
  readonly whoOf: (
    request: IncomingMessage,
  ) => Promise<{ readonly name: string; readonly mayChange: boolean } | undefined>
  readonly sameOrigin: (request: IncomingMessage) => boolean
  readonly log: Logger
}

/** What travels on the socket of a console, towards the page. */
type ToPage =
  | { readonly kind: 'open' }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'problem'; readonly problem: Problem }
  | { readonly kind: 'closed' }

const MOST_TYPED = 4_000

/** A message of a page is one key or one pasted line; consoles that are open at once are few. */
const MOST_MESSAGE_BYTES = 16_384
const MOST_CONSOLES = 16
/** What a page that does not read, or a device that does not take, may have waiting before its console is ended. */
const MOST_WAITING_BYTES = 1_048_576

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
        sockets.handleUpgrade(request, socket, head, (web) => void openSession(context, web, admitted))
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

interface Session {
  readonly jobId: string
  readonly who: string
  readonly via: string
  readonly deviceId: string
}

async function openSession(context: ConsoleContext, web: WebSocket, session: Session): Promise<void> {
  const { jobId, who, via } = session
  const transcript = new Transcript()
  let transport: Transport | undefined
  let kept = false
  const startedAt = context.store.clock()
  const tell = (message: ToPage) => {
    if (web.readyState !== web.OPEN) return
    if (web.bufferedAmount > MOST_WAITING_BYTES) return web.terminate()
    web.send(JSON.stringify(message))
  }
  const keepText = async () => {
    if (kept || transcript.text.trim() === '') return
    kept = true
    try {
      const job = await context.jobOf(jobId)
      const deviceId = job.devices.some((device) => device.id === session.deviceId) ? session.deviceId : null
      await context.store.write(who, (tx) =>
        keep(tx, jobId, {
          deviceId,
          kind: 'console',
          title: `Console ${via}`,
          content: { via, startedAt, text: transcript.text },
        }),
      )
    } catch (reason) {
      context.log.error({ err: reason, via }, 'console text not kept')
      tell({ kind: 'problem', problem: notKept(reason, via) })
    }
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
  // A broken frame, a message over the limit: this console ends, the program goes on.
  web.on('error', (reason) => {
    context.log.warn({ err: reason, via }, 'console socket broken')
    web.terminate()
  })
  web.on('message', (data) => {
    const typed = readTyped(String(data))
    if (typed === undefined || !transport) return
    if (transport.waitingBytes() > MOST_WAITING_BYTES) return web.close(1013, 'the device does not take what is typed')
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
    if (web.readyState !== web.OPEN) transport.close()
  } catch (reason) {
    const problem = reason instanceof ConsoleRefusal ? reason.problem : unforeseen(via)
    tell({ kind: 'problem', problem })
    web.close()
  }
}

const notKept = (reason: unknown, via: string): Problem => ({
  what: isDiskFull(reason)
    ? 'The disk is full: the text of this console could not be kept. Copy what you need from the screen.'
    : 'The text of this console could not be kept. Copy what you need from the screen.',
  where: 'via',
  expected: 'room for it',
  found: via,
})

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
  const record = await context.store.walks.get(job.id)
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
