import { devicePatch, networkPatch, pointPatch, portPatch, termPut, versionOnly } from '@calm/contract'
import { Router } from 'express'
import type { ObjectSchema } from 'joi'
import {
  changePoint,
  putTerm,
  releaseForced,
  removeHandshake,
  removeRow,
  restoreHandshake,
  restoreJob,
  restoreRow,
  setRow,
  type Tx,
} from '../store'
import { requireLead, type leadOnly } from '../security'
import type { AppContext } from './context'
import { bodyOf, partOf } from './input'

/** Rows that people edit in place: each change names the version that was looked at. */
export function rowRoutes({ store }: AppContext): Router {
  const routes = Router()

  const change = <T>(
    method: 'patch' | 'post' | 'put' | 'delete',
    path: string,
    schema: ObjectSchema<T>,
    work: (tx: Tx, id: string, body: T, part: (name: string) => string) => Promise<void>,
    only?: keyof typeof leadOnly,
  ) =>
    routes[method](path, async (request, response) => {
      if (only) requireLead(request, only)
      const body = bodyOf(request, schema)
      await store.write(request.who.name, (tx) =>
        work(tx, partOf(request, 'id'), body, (name) => partOf(request, name)),
      )
      response.status(204).end()
    })

  for (const [table, path, schema] of [
    ['network', '/networks/:id', networkPatch],
    ['device', '/devices/:id', devicePatch],
    ['port', '/ports/:id', portPatch],
  ] as const) {
    const only = table === 'network' ? 'networks' : undefined
    change('patch', path, schema, (tx, id, { version, ...fields }) => setRow(tx, table, id, version, fields), only)
    change('delete', path, versionOnly, (tx, id, body) => removeRow(tx, table, id, body.version), only)
  }
  for (const [path, restore, only] of [
    ['/devices/:id/restore', (tx: Tx, id: string) => restoreRow(tx, 'device', id), undefined],
    ['/networks/:id/restore', (tx: Tx, id: string) => restoreRow(tx, 'network', id), 'networks'],
    ['/jobs/:id/restore', restoreJob, 'jobs'],
    ['/handshakes/:id/restore', restoreHandshake, undefined],
  ] as const) {
    routes.post(path, async (request, response) => {
      if (only) requireLead(request, only)
      await store.write(request.who.name, (tx) => restore(tx, partOf(request, 'id')))
      response.status(204).end()
    })
  }
  change('delete', '/handshakes/:id', versionOnly, (tx, id, body) => removeHandshake(tx, id, body.version))
  change('patch', '/points/:id', pointPatch, changePoint)
  change('put', '/handshakes/:id/terms/:termId/:end', termPut, (tx, id, body, part) =>
    putTerm(tx, id, part('termId'), part('end'), body),
  )
  change('post', '/forced/:id/release', versionOnly, (tx, id, body) => releaseForced(tx, id, body.version))
  return routes
}
