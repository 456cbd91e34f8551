import { setTimeout as pause } from 'node:timers/promises'
import { api } from '@calm/contract/api'
import { Router } from 'express'
import { settings } from '../db'
import { laptopInterfaces } from '../laptop'
import { GuessLimit, openSession, requireLead, ROLES, SESSION_COOKIE, setPasscode, type Role } from '../security'
import { notFound, Refused } from '../store'
import type { AppContext } from './context'
import { serve } from './serve'

/** What is around the jobs: health, the laptop, who is at the page and how they come in. */
export function surroundingRoutes(app: AppContext): Router {
  const routes = Router()

  serve(routes, api.health, () => ({
    ok: true as const,
    upSeconds: Math.round((app.clock() - app.startedAt) / 1000),
    bench: app.bench !== undefined,
  }))

  serve(routes, api.laptop, () => laptopInterfaces())

  serve(routes, api.me, ({ request }) => ({ ...request.who, guarded: app.guarded }))

  serve(routes, api.setMe, async ({ body, who }) => {
    const { name } = body
    if (app.guarded)
      throw new Refused(403, [{ what: 'Log in again to use another name.', where: 'name', expected: who, found: name }])
    await app.store.write(who, (tx) => tx.manager.save(settings, { key: 'name', value: name }))
    return { name, role: 'lead', guarded: false }
  })

  const guesses = new GuessLimit(app.clock)
  serve(routes, api.logIn, async ({ body, request, response }) => {
    const { name, passcode } = body
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
    response.set('set-cookie', cookie)
    return undefined
  })

  serve(routes, api.logOut, ({ request, response }) => {
    app.sessions.end(request.headers.cookie)
    response.set('set-cookie', `${SESSION_COOKIE}=; HttpOnly; SameSite=Strict; Path=/; Max-Age=0`)
    return undefined
  })

  /** A new passcode of a role; whoever was in with the old one logs in again. */
  serve(
    routes,
    api.setPasscode,
    async ({ params, body, who }) => {
      const role = ROLES.find((each) => each === params.role)
      if (!role) throw notFound('role', params.role)
      await app.store.write(who, (tx) => setPasscode(tx.manager, role satisfies Role, body.passcode))
      app.sessions.endOf(role)
      app.log.info({ role, who }, 'passcode set')
      return undefined
    },
    // Who may not is told so before what was sent is looked at.
    (request, _response, next) => {
      requireLead(request, 'passcodes')
      next()
    },
  )

  return routes
}
