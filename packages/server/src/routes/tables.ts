import { reservationFormats, reservationsOf, type ReservationFormatId } from '@calm/core/lineUp'
import express, { Router } from 'express'
import { csvText } from '@calm/core/table'
import { refusedBecause } from '../store'
import { deviceTable, networkTable, readWorkbookApart, WORKBOOK_LIMIT, workbookOf } from '../tables'
import type { AppContext } from './context'
import { partOf } from './input'
import { fileName } from './jobs'

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'

/** Tables in and out: devices as CSV and XLSX, workbooks read, reservation lists. */
export function tableRoutes(app: AppContext): Router {
  const routes = Router()

  routes.get('/jobs/:jobId/devices.csv', async (request, response) => {
    const job = await app.jobs.get(partOf(request, 'jobId'))
    const { head, rows } = deviceTable(job)
    response
      .attachment(`${fileName(job.name)}-devices.csv`)
      .type('text/csv; charset=utf-8')
      .send(csvText([head, ...rows]))
  })

  routes.get('/jobs/:jobId/devices.xlsx', async (request, response) => {
    const job = await app.jobs.get(partOf(request, 'jobId'))
    const workbook = await workbookOf([deviceTable(job), networkTable(job)])
    response
      .attachment(`${fileName(job.name)}-devices.xlsx`)
      .type(XLSX)
      .send(workbook)
  })

  routes.get('/jobs/:jobId/reservations/:format', async (request, response) => {
    const job = await app.jobs.get(partOf(request, 'jobId'))
    const id = partOf(request, 'format')
    if (!Object.hasOwn(reservationFormats, id))
      throw refusedBecause('There is no such format.', Object.keys(reservationFormats).join(', '), id, 'format')
    const format = reservationFormats[id as ReservationFormatId]
    const { ready } = reservationsOf(job)
    response
      .attachment(`${fileName(job.name)}-reservations.${format.extension}`)
      .type('text/plain; charset=utf-8')
      .send(format.write(ready))
  })

  routes.post('/tables/read', express.raw({ type: () => true, limit: WORKBOOK_LIMIT }), async (request, response) => {
    const bytes: unknown = request.body
    response.json(await readWorkbookApart(bytes instanceof Uint8Array ? bytes : new Uint8Array(), app.workbookWorker))
  })

  return routes
}
