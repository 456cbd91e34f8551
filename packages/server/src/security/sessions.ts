import { randomBytes } from 'node:crypto'
import type { Me } from '@calm/contract'

export type Role = Me['role']

interface Session {
  readonly role: Role
  name: string
  readonly ends: number
}

const LASTS_MS = 12 * 60 * 60 * 1000
export const SESSION_COOKIE = 'calm_session'

/** Sessions in memory: a restart asks for the passcode again. */
export class Sessions {
  readonly #sessions = new Map<string, Session>()

  constructor(readonly clock: () => number) {}

  open(role: Role, name: string): string {
    const token = randomBytes(32).toString('hex')
    this.#sessions.set(token, { role, name, ends: this.clock() + LASTS_MS })
    return token
  }

  find(cookieHeader: string | undefined): Session | undefined {
    const token = /(?:^|;\s*)calm_session=([0-9a-f]{64})(?:;|$)/.exec(cookieHeader ?? '')?.[1]
    const session = token ? this.#sessions.get(token) : undefined
    if (!session || !token) return undefined
    if (session.ends > this.clock()) return session
    this.#sessions.delete(token)
    return undefined
  }
}

/** What a role may do beside looking. */
export function mayChange(role: Role): boolean {
  return role !== 'viewer'
}
