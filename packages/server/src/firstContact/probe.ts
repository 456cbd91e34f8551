import { Socket } from 'node:net'
import type { IdentitySeen } from '@calm/core/checks'
import type { Mode } from '@calm/core/job'
import { protocolAddress, tcpUnit } from '@calm/core/modbus'
import { plainText } from '@calm/core/units'
import { AwakeTimer, tcpChannel } from '../exchange'
import { targetOf } from '../live'
import type { LiveContext } from '../live'

export type Connection = 'open' | 'refused' | 'silent'

/** Tries one TCP connection, and closes it at once. */
function tryConnection(host: string, port: number, timeoutMs: number): Promise<Connection> {
  return new Promise((done) => {
    const socket = new Socket()
    const end = (connection: Connection) => {
      timer.stop()
      socket.destroy()
      done(connection)
    }
    const timer = new AwakeTimer(timeoutMs, () => end('silent'))
    socket.once('connect', () => end('open'))
    socket.once('error', (error: NodeJS.ErrnoException) => end(error.code === 'ECONNREFUSED' ? 'refused' : 'silent'))
    socket.connect(port, host)
  })
}

export interface Probe {
  readonly address: string
  readonly servedAt: string
  readonly ports: readonly { readonly port: number; readonly connection: Connection }[]
  readonly answers: boolean
  /** What it says of itself by FC 43/14; several where several hold the address. */
  readonly identities: readonly string[]
  /** The same, part by part. */
  readonly said: readonly IdentitySeen[]
}

const TIMEOUT_MS = 700

/**
 * Looks at an address: its ports, then its identity, asked twice over new connections, so that two devices at one
 * address show.
 */
export async function probe(
  context: LiveContext,
  mode: Mode,
  address: string,
  ports: readonly number[],
  timeoutMs = TIMEOUT_MS,
): Promise<Probe> {
  const tried = await Promise.all(
    ports.map(async (port) => {
      const target = targetOf(context.bench, mode, address, port)
      const connection = target ? await tryConnection(target.host, target.port, timeoutMs) : 'silent'
      // On the bench the laptop itself refuses where nobody is.
      const nobody = mode === 'bench' && connection === 'refused' && !context.bench?.isThere(address)
      return { port, connection: nobody ? ('silent' as const) : connection }
    }),
  )
  const modbus = tried.find(({ port, connection }) => port === 502 && connection === 'open')
  const said = modbus ? await identitiesAt(context, mode, address) : []
  const first = targetOf(context.bench, mode, address, ports[0] ?? 502)
  return {
    address,
    servedAt: first ? `${first.host}:${first.port}` : '',
    ports: tried,
    answers: tried.some(({ connection }) => connection === 'open' || connection === 'refused'),
    identities: said.map(({ text }) => text),
    said,
  }
}

async function identitiesAt(context: LiveContext, mode: Mode, address: string): Promise<readonly IdentitySeen[]> {
  const target = targetOf(context.bench, mode, address, 502)
  if (!target) return []
  const seen = new Map<string, IdentitySeen>()
  for (let round = 0; round < 2; round += 1)
    for (const unit of [255, 1]) {
      const identity = await identityPartsOf(context, target, unit)
      if (identity === undefined) continue
      seen.set(identity.text, identity)
      break
    }
  return [...seen.values()]
}

/** Object ids of the basic identity. @source MODBUS Application Protocol Specification V1.1b3, section 6.21 */
const PRODUCT_CODE = 1
const REVISION = 2

/** What a unit says of itself, part by part; asked over a connection of its own. */
async function identityPartsOf(
  context: LiveContext,
  target: { readonly host: string; readonly port: number },
  unit: number,
  signal?: AbortSignal,
): Promise<IdentitySeen | undefined> {
  const outcome = await context.pool.askOnce(
    tcpChannel(target),
    { unit: tcpUnit(unit), request: { code: 43, category: 'regular', object: 0 } },
    signal,
  )
  if (outcome.kind !== 'answered' || outcome.response.kind !== 'identity') return undefined
  const objects = outcome.response.objects.map(({ id, text }) => ({ id, text: plainText(text) }))
  const textOf = (id: number) => objects.find((each) => each.id === id)?.text ?? ''
  const parts = objects.map(({ text }) => text)
  return { text: parts.join(', '), productCode: textOf(PRODUCT_CODE), revision: textOf(REVISION), parts }
}

/** What a unit says of itself, in one line. */
export const identityOf = async (...asked: Parameters<typeof identityPartsOf>): Promise<string | undefined> =>
  (await identityPartsOf(...asked))?.text

/** Exceptions by which a gateway says that nobody answered it behind. */
const NOBODY_BEHIND: readonly number[] = [10, 11]

/**
 * Whether a unit answers: by its identity, else by any answer to a read. Many field devices know no FC 43/14; an
 * exception of their own is an answer too.
 * @returns what it says of itself, blank where it says nothing; `undefined` where it is silent
 */
export async function unitAt(
  context: LiveContext,
  target: { readonly host: string; readonly port: number },
  unit: number,
  signal?: AbortSignal,
): Promise<string | undefined> {
  const identity = await identityOf(context, target, unit, signal)
  if (identity !== undefined) return identity
  for (const code of [3, 4] as const) {
    const request = { code, address: protocolAddress(0), count: 1 } as const
    const outcome = await context.pool.askOnce(tcpChannel(target), { unit: tcpUnit(unit), request }, signal)
    if (outcome.kind !== 'answered') continue
    const { response } = outcome
    if (response.kind !== 'exception' || !NOBODY_BEHIND.includes(response.exception)) return ''
  }
  return undefined
}
