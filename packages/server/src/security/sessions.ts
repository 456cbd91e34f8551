import { randomBytes } from 'node:crypto'
import type { Me } from '@calm/contract'

export type Role = Me['role']

export interface Session {
  readonly role: Role
  name: string
  readonly ends: number
  /** The passcode it was opened with, as it is stored: when another one is set, the session ends. */
  readonly openedWith: string
}

const LASTS_MS = 12 * 60 * 60 * 1000
/** A room full of people; more at once is somebody else's doing. */
const MOST_SESSIONS = 500
export const SESSION_COOKIE = 'calm_session'

/** Sessions in memory: a restart asks for the passcode again. */
export class Sessions {
  readonly #sessions = new Map<string, Session>()
  /** What is open by a session (a stream, a console), and how it is closed with it. */
  readonly #open = new Map<string, Set<() => void>>()

  constructor(readonly clock: () => number) {}

  open(role: Role, name: string, openedWith = ''): string {
    const token = randomBytes(32).toString('hex')
    if (this.#sessions.size >= MOST_SESSIONS) this.#end(this.#sessions.keys().next().value ?? '')
    this.#sessions.set(token, { role, name, ends: this.clock() + LASTS_MS, openedWith })
    return token
  }

  find(cookieHeader: string | undefined): Session | undefined {
    const token = tokenIn(cookieHeader)
    const session = token ? this.#sessions.get(token) : undefined
    if (!session || !token) return undefined
    if (session.ends > this.clock()) return session
    this.#end(token)
    return undefined
  }

  /** Logs out. */
  end(cookieHeader: string | undefined): void {
    const token = tokenIn(cookieHeader)
    if (token) this.#end(token)
  }

  /** Ends every session of a role: its passcode is another one. */
  endOf(role: Role): void {
    for (const [token, session] of this.#sessions) if (session.role === role) this.#end(token)
  }

  /** What stays open by a session is closed when that ends, at once. @returns the way to forget it, once it is closed */
  whenEnded(cookieHeader: string | undefined, close: () => void): () => void {
    const token = tokenIn(cookieHeader)
    if (!token || !this.#sessions.has(token)) return () => undefined
    const open = this.#open.get(token) ?? new Set()
    this.#open.set(token, open.add(close))
    return () => open.delete(close)
  }

  #end(token: string): void {
    this.#sessions.delete(token)
    const open = this.#open.get(token) ?? []
    this.#open.delete(token)
    for (const close of open) close()
  }
}

const tokenIn = (cookieHeader: string | undefined): string | undefined =>
  /(?:^|;\s*)calm_session=([0-9a-f]{64})(?:;|$)/.exec(cookieHeader ?? '')?.[1]

/** What a role may do beside looking. */
export function mayChange(role: Role): boolean {
  return role !== 'viewer'
}
