import type { Problem } from '@calm/contract'
import type { ConsoleFromPage, ConsoleToPage } from '@calm/contract/console'
import { formatIpv4 } from '@calm/core/address'
import type { Device, Job } from '@calm/core/job'
import { isSettled, isTypeable, portOf, presentOf, type Stop, type WalkStep } from '@calm/core/procedure'
import type { ReadValue } from '@calm/core/menu'
import type { Logger } from 'pino'
import type { WebSocket } from 'ws'
import { findStep, walkNow } from '../firstContact'
import { addFact, isDiskFull, keep, Refused, requireNotHeld } from '../store'
import { MenuSession } from './menuSession'
import { Transcript } from './transcript'
import type { Transport, TransportEvents } from './transport'
import { ConsoleRefusal, openVia, type WaysOut } from './via'

export interface SessionContext extends WaysOut {
  readonly jobOf: (jobId: string) => Promise<Job>
  readonly log: Logger
}

/** Who talks to what. */
export interface Session {
  readonly jobId: string
  readonly who: string
  readonly via: string
  /** The device whose console it is, as the page says; blank where it is not known. */
  readonly deviceId: string
}

const MOST_TYPED = 4_000
/** What a page that does not read, or a device that does not take, may have waiting before its console is ended. */
const MOST_WAITING_BYTES = 1_048_576
/** What is read within this time is written together, ms. */
const GATHER_MS = 250
/** The same value read again within this time is one reading, ms. */
const SAME_READING_MS = 20_000

/** Whose console it is: named by the page, or by the socket of the bench; never another than the way leads to. */
async function deviceOf({ store }: WaysOut, job: Job, { via, deviceId }: Session): Promise<Device | undefined> {
  if (via.startsWith('bench:')) return job.devices.find((device) => device.tag === via.slice('bench:'.length))
  const named = job.devices.find((device) => device.id === deviceId)
  if (!named || !via.startsWith('tcp:')) return named
  const present = presentOf(job, await store.walks.get(job.id), named)
  const addresses = [portOf(named)?.address, present && formatIpv4(present.address)]
  return addresses.includes(via.split(':')[1]) ? named : undefined
}

/** The first caution about writing to a device, up to this stop, that nobody has read. */
function unread(stops: readonly Stop[], stop: Stop, device: Device): WalkStep | undefined {
  const before = stops.slice(0, stops.findIndex(({ key }) => key === stop.key) + 1)
  return before
    .flatMap(({ steps }) => steps)
    .find((step) => step.deviceIds.includes(device.id) && step.step.covers?.includes('writes') && !isSettled(step))
}

/** One console from its opening to its end: text both ways, tasks in the menu, what it shows, and its text kept. */
export async function openSession(context: SessionContext, web: WebSocket, session: Session): Promise<void> {
  const { jobId, who, via } = session
  const { store, log } = context
  const transcript = new Transcript()
  let transport: Transport | undefined
  let menu: MenuSession | undefined
  let kept = false
  const startedAt = store.clock()
  const tell = (message: ConsoleToPage) => {
    if (web.readyState !== web.OPEN) return
    if (web.bufferedAmount > MOST_WAITING_BYTES) return web.terminate()
    web.send(JSON.stringify(message))
  }
  const keepText = async () => {
    if (kept || transcript.text.trim() === '') return
    kept = true
    try {
      const deviceId = (await deviceOf(context, await context.jobOf(jobId), session))?.id ?? null
      const content = { via, startedAt, text: transcript.text }
      await store.write(who, (tx) => keep(tx, jobId, { deviceId, kind: 'console', title: `Console ${via}`, content }))
    } catch (reason) {
      log.error({ err: reason, via }, 'console text not kept')
      tell({ kind: 'problem', problem: notKept(reason, via) })
    }
  }
  const write = (text: string) => {
    transcript.typed(text)
    transport?.write(text)
  }
  const keepRead = readingsKept(context, session, tell)
  const events: TransportEvents = {
    opened: () => tell({ kind: 'open' }),
    text: (text) => {
      transcript.received(text)
      tell({ kind: 'text', text })
      menu?.received(text)
    },
    problem: (problem) => tell({ kind: 'problem', problem }),
    closed: () => {
      menu?.closed()
      tell({ kind: 'closed' })
      void keepText().then(() => web.close())
    },
  }
  const beginTask = async (stepKey: string) => {
    const of = { sent: 0, of: 0, kind: 'menu', stepKey, state: 'stopped' } as const
    const refuse = (what: string, found: string, expected: string) =>
      tell({ ...of, problem: { what, where: 'menu', found, expected } })
    try {
      const job = await context.jobOf(jobId)
      const { stops } = await walkNow(store, job)
      const place = findStep(stops, stepKey)
      if (!place) return refuse('The walk has no such step: it is not begun, or it changed.', stepKey, 'a step of it')
      const { step } = place
      const device = await deviceOf(context, job, session)
      if (!step.menu) return refuse('This step does nothing in a menu.', step.step.say, 'a step with a task in it')
      if (!device || step.deviceId !== device.id)
        return refuse('This console goes to another device.', device?.tag ?? via, 'the device of the step')
      requireNotHeld(place)
      const caution = unread(stops, place.stop, device)
      if (caution) return refuse('Its cautions come before anything is sent.', caution.step.say, 'that caution read')
      const open = step.menu.answers.find(({ answer }) => !isTypeable(answer))
      if (open) return refuse('What is to be typed is not known yet.', open.answer, `an answer to "${open.prompt}"`)
      const why = menu?.begin(stepKey, step.menu)
      if (why !== undefined) return refuse(why, step.menu.task.name, 'one task at a time, in a menu that is described')
      const typed = step.menu.answers.map(({ prompt, answer }) => `${prompt} ${answer}`.trim()).join('; ')
      await store.write(who, (tx) => tx.log(jobId, `${device.tag}, in its menu: ${step.menu?.task.name}. ${typed}`))
    } catch (reason) {
      if (!(reason instanceof Refused)) throw reason
      const [problem] = reason.problems
      if (problem) tell({ ...of, problem })
    }
  }
  // A broken frame, a message over the limit: this console ends, the program goes on.
  web.on('error', (reason) => {
    log.warn({ err: reason, via }, 'console socket broken')
    web.terminate()
  })
  web.on('message', (data) => {
    const message = readMessage(String(data))
    if (!message || !transport) return
    if (transport.waitingBytes() > MOST_WAITING_BYTES) return web.close(1013, 'the device does not take what is typed')
    if (message.kind === 'menu-stop') return menu?.stop()
    if (message.kind === 'menu')
      return void beginTask(message.stepKey).catch((reason: unknown) => {
        log.error({ err: reason, via }, 'task in a menu not begun')
        tell({ kind: 'problem', problem: unforeseen(via) })
      })
    menu?.typed()
    write(message.text)
  })
  web.on('close', () => {
    menu?.stop()
    transport?.close()
    void keepText()
  })
  try {
    const job = await context.jobOf(jobId)
    menu = new MenuSession(job, await deviceOf(context, job, session), {
      write,
      tell,
      keepRead,
      clock: () => Date.now(),
    })
    transport = await openVia(context, job, via, events)
    if (web.readyState !== web.OPEN) transport.close()
  } catch (reason) {
    const problem = reason instanceof ConsoleRefusal ? reason.problem : unforeseen(via)
    tell({ kind: 'problem', problem })
    web.close()
  }
}

/** What the console shows goes into the facts of its device, several lines together. */
function readingsKept({ store, log }: SessionContext, { jobId, who }: Session, tell: (message: ConsoleToPage) => void) {
  const lately = new Map<string, number>()
  let waiting: ReadValue[] = []
  return (device: Device, values: readonly ReadValue[]) => {
    const now = store.clock()
    const fresh = values.filter(({ is, text }) => now - (lately.get(`${is} ${text}`) ?? 0) > SAME_READING_MS)
    for (const { is, text } of fresh) lately.set(`${is} ${text}`, now)
    if (fresh.length === 0) return
    waiting.push(...fresh)
    if (waiting.length > fresh.length) return
    setTimeout(() => {
      const all = waiting
      waiting = []
      const write = store.write(who, async (tx) => {
        for (const { is, text } of all)
          await addFact(tx, jobId, { deviceId: device.id, setting: is, standing: 'found', text, how: 'read-live' })
      })
      write.then(
        () => tell({ kind: 'read', tag: device.tag, values: all }),
        (reason: unknown) => log.error({ err: reason }, 'what a console showed was not kept'),
      )
    }, GATHER_MS).unref()
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

function readMessage(text: string): ConsoleFromPage | undefined {
  try {
    const message = JSON.parse(text) as { kind?: unknown; text?: unknown; stepKey?: unknown }
    if (message.kind === 'menu-stop') return { kind: 'menu-stop' }
    if (message.kind === 'menu' && typeof message.stepKey === 'string')
      return { kind: 'menu', stepKey: message.stepKey.slice(0, 300) }
    if (message.kind === 'type' && typeof message.text === 'string')
      return { kind: 'type', text: message.text.slice(0, MOST_TYPED) }
    return undefined
  } catch {
    return undefined
  }
}
