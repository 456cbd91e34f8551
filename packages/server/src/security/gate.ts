import type { RequestHandler } from 'express'
import { userInfo } from 'node:os'
import type { DataSource, EntityManager } from 'typeorm'
import { settings } from '../db'
import { Refused, type Store } from '../store'
import { hashPasscode, passcodeFits } from './passcode'
import { mayChange, SESSION_COOKIE, type Role, type Session, type Sessions } from './sessions'

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

/** A session whose passcode is still the one that is set. */
async function liveSession(
  source: DataSource,
  sessions: Sessions,
  cookie: string | undefined,
): Promise<Session | undefined> {
  const session = sessions.find(cookie)
  if (!session) return undefined
  const row = await source.manager.findOne(settings, { where: { key: passcodeKey(session.role) } })
  if (row?.value === session.openedWith) return session
  sessions.end(cookie)
  return undefined
}

/** Who asks over a socket; `undefined` where a passcode is needed and none was given. */
export async function whoAsks(
  source: DataSource,
  sessions: Sessions,
  guarded: boolean,
  cookie: string | undefined,
): Promise<{ readonly name: string; readonly mayChange: boolean } | undefined> {
  if (!guarded) return { name: await localName(source), mayChange: true }
  const session = await liveSession(source, sessions, cookie)
  return session && { name: session.name, mayChange: mayChange(session.role) }
}

/** What is open to everybody: logging in and out, and whether the server runs. */
const OPEN: readonly string[] = ['/session', '/health']

interface Guarded {
  readonly store: Pick<Store, 'source'>
  readonly sessions: Sessions
  readonly guarded: boolean
}

/** Says who asks. On this laptop alone nobody logs in; with `--host` a session is needed for everything but the log-in. */
export function gate({ store: { source }, sessions, guarded }: Guarded): RequestHandler {
  return async (request, _response, next) => {
    if (!guarded) {
      request.who = { name: await localName(source), role: 'lead' }
      return next()
    }
    const session = await liveSession(source, sessions, request.headers.cookie)
    if (!session) {
      if (OPEN.includes(request.path)) {
        request.who = { name: 'nobody', role: 'viewer' }
        return next()
      }
      throw new Refused(401, [
        { what: 'A passcode is needed here.', where: 'session', expected: 'a passcode', found: 'none' },
      ])
    }
    request.who = { name: session.name, role: session.role }
    if (!['GET', 'HEAD'].includes(request.method) && !OPEN.includes(request.path) && !mayChange(session.role)) {
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
      return `${SESSION_COOKIE}=${sessions.open(role, name, row.value)}; HttpOnly; SameSite=Strict; Path=/; Max-Age=43200`
    }
  }
  return undefined
}

/** Sets the passcode of a role. Sessions that were opened with the one before end with it. */
export async function setPasscode(manager: EntityManager, role: Role, passcode: string): Promise<void> {
  await manager.save(settings, { key: passcodeKey(role), value: await hashPasscode(passcode) })
}
