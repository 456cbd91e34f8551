import { faults, me, type Me } from '@calm/contract'
import { Router } from 'express'
import Joi from 'joi'
import { settings } from '../db'
import { laptopInterfaces } from '../laptop'
import {
  GuessLimit,
  openSession,
  PASSCODE_MIN,
  requireLead,
  ROLES,
  SESSION_COOKIE,
  setPasscode,
  type Role,
} from '../security'
import { setTimeout as pause } from 'node:timers/promises'
import { notFound, Refused } from '../store'
import type { AppContext } from './context'
import { bodyOf, partOf } from './input'

const session = Joi.object({
  name: Joi.string().trim().min(1).max(60).required(),
  passcode: Joi.string().min(1).max(200).required(),
})

const newPasscode = Joi.object({ passcode: Joi.string().min(PASSCODE_MIN).max(200).required() })

/** What is around the jobs: health, the laptop, the bench, who is at the page. */
export function surroundingRoutes(app: AppContext): Router {
  const routes = Router()

  routes.get('/health', (_request, response) => {
    response.json({
      ok: true,
      upSeconds: Math.round((app.clock() - app.startedAt) / 1000),
      bench: app.bench !== undefined,
    })
  })

  routes.get('/laptop', (_request, response) => {
    response.json(laptopInterfaces())
  })

  routes.get('/bench', (_request, response) => {
    response.json(app.bench?.list() ?? [])
  })

  routes.put('/bench/:tag', (request, response) => {
    const switches = bodyOf(request, faults)
    if (!app.bench?.setFaults(partOf(request, 'tag'), switches)) throw notFound('stand-in', partOf(request, 'tag'))
    app.log.info({ tag: partOf(request, 'tag'), switches }, 'bench switches set')
    response.json(app.bench.list())
  })

  routes.get('/me', (request, response) => {
    response.json({ ...request.who, guarded: app.guarded } satisfies Me)
  })

  routes.put('/me', async (request, response) => {
    const { name } = bodyOf(request, me)
    if (app.guarded)
      throw new Refused(403, [
        { what: 'Log in again to use another name.', where: 'name', expected: request.who.name, found: name },
      ])
    await app.store.source.manager.save(settings, { key: 'name', value: name })
    response.json({ name, role: 'lead', guarded: false } satisfies Me)
  })

  const guesses = new GuessLimit(app.clock)
  routes.post('/session', async (request, response) => {
    const { name, passcode } = bodyOf(request, session)
    const admission = guesses.admit(request.socket.remoteAddress ?? 'unknown')
    if (admission.kind === 'refused') {
      response.set('retry-after', String(admission.seconds))
      throw new Refused(429, [
        {
          what: `Too many wrong passcodes. Wait ${Math.ceil(admission.seconds / 60)} minutes.`,
          where: 'passcode',
          expected: 'fewer tries',
          found: 'too many in ten minutes',
        },
      ])
    }
    if (admission.delayMs > 0) await pause(admission.delayMs)
    const cookie = app.guarded ? await openSession(app.store.source, app.sessions, name, passcode) : undefined
    if (!cookie)
      throw new Refused(401, [
        {
          what: 'This passcode fits no role.',
          where: 'passcode',
          expected: 'a passcode of this server',
          found: 'another one',
        },
      ])
    admission.succeeded()
    app.log.info({ name, address: request.socket.remoteAddress }, 'logged in')
    response.set('set-cookie', cookie).status(204).end()
  })

  routes.delete('/session', (request, response) => {
    app.sessions.end(request.headers.cookie)
    response.set('set-cookie', `${SESSION_COOKIE}=; HttpOnly; SameSite=Strict; Path=/; Max-Age=0`).status(204).end()
  })

  /** A new passcode of a role; whoever was in with the old one logs in again. */
  routes.put('/passcodes/:role', async (request, response) => {
    requireLead(request, 'passcodes')
    const role = ROLES.find((each) => each === partOf(request, 'role'))
    if (!role) throw notFound('role', partOf(request, 'role'))
    const { passcode } = bodyOf(request, newPasscode)
    await setPasscode(app.store.source, role satisfies Role, passcode)
    app.log.info({ role, who: request.who.name }, 'passcode set')
    response.status(204).end()
  })

  return routes
}
