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

  constructor(readonly clock: () => number) {}

  open(role: Role, name: string, openedWith = ''): string {
    const token = randomBytes(32).toString('hex')
    if (this.#sessions.size >= MOST_SESSIONS) this.#sessions.delete(this.#sessions.keys().next().value ?? '')
    this.#sessions.set(token, { role, name, ends: this.clock() + LASTS_MS, openedWith })
    return token
  }

  find(cookieHeader: string | undefined): Session | undefined {
    const token = tokenIn(cookieHeader)
    const session = token ? this.#sessions.get(token) : undefined
    if (!session || !token) return undefined
    if (session.ends > this.clock()) return session
    this.#sessions.delete(token)
    return undefined
  }

  /** Logs out. */
  end(cookieHeader: string | undefined): void {
    const token = tokenIn(cookieHeader)
    if (token) this.#sessions.delete(token)
  }
}

const tokenIn = (cookieHeader: string | undefined): string | undefined =>
  /(?:^|;\s*)calm_session=([0-9a-f]{64})(?:;|$)/.exec(cookieHeader ?? '')?.[1]

/** What a role may do beside looking. */
export function mayChange(role: Role): boolean {
  return role !== 'viewer'
}
