import type { RequestHandler } from 'express'
import { userInfo } from 'node:os'
import type { DataSource } from 'typeorm'
import { settings } from '../db'
import { Refused } from '../store'
import { passcodeFits } from './passcode'
import { mayChange, type Role, SESSION_COOKIE, type Sessions } from './sessions'

declare module 'express-serve-static-core' {
  interface Request {
    who: { name: string; role: Role }
  }
}

export const passcodeKey = (role: Role) => `passcode.${role}`
export const ROLES: readonly Role[] = ['lead', 'technician', 'viewer']

/** The name on this laptop, as it was last set, else the account's. */
export async function localName(source: DataSource): Promise<string> {
  const row = await source.manager.findOne(settings, { where: { key: 'name' } })
  if (row) return row.value
  try {
    return userInfo().username
  } catch {
    return 'technician'
  }
}

/** Who asks over a socket; `undefined` where a passcode is needed and none was given. */
export async function whoAsks(
  source: DataSource,
  sessions: Sessions,
  guarded: boolean,
  cookie: string | undefined,
): Promise<{ readonly name: string; readonly mayChange: boolean } | undefined> {
  if (!guarded) return { name: await localName(source), mayChange: true }
  const session = sessions.find(cookie)
  return session && { name: session.name, mayChange: mayChange(session.role) }
}

/** Says who asks. On this laptop alone nobody logs in; with `--host` a session is needed for everything but the log-in. */
export function gate(source: DataSource, sessions: Sessions, guarded: boolean): RequestHandler {
  return async (request, _response, next) => {
    if (!guarded) {
      request.who = { name: await localName(source), role: 'lead' }
      return next()
    }
    const session = sessions.find(request.headers.cookie)
    if (!session) {
      if (request.path === '/session' || request.path === '/health') {
        request.who = { name: 'nobody', role: 'viewer' }
        return next()
      }
      throw new Refused(401, [
        { what: 'A passcode is needed here.', where: 'session', expected: 'a passcode', found: 'none' },
      ])
    }
    request.who = { name: session.name, role: session.role }
    if (!['GET', 'HEAD'].includes(request.method) && !mayChange(session.role)) {
      throw new Refused(403, [
        { what: 'A viewer may look, not change.', where: 'role', expected: 'technician or lead', found: session.role },
      ])
    }
    next()
  }
}

/** Opens a session for whichever role the passcode belongs to. @returns the cookie, or `undefined` when it fits none */
export async function openSession(
  source: DataSource,
  sessions: Sessions,
  name: string,
  passcode: string,
): Promise<string | undefined> {
  for (const role of ROLES) {
    const row = await source.manager.findOne(settings, { where: { key: passcodeKey(role) } })
    if (row && (await passcodeFits(passcode, row.value))) {
      return `${SESSION_COOKIE}=${sessions.open(role, name)}; HttpOnly; SameSite=Strict; Path=/; Max-Age=43200`
    }
  }
  return undefined
}
