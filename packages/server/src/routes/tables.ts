import { api } from '@calm/contract/api'
import { reservationFormats, reservationsOf, type ReservationFormatId } from '@calm/core/lineUp'
import { csvText } from '@calm/core/table'
import express, { Router } from 'express'
import { refusedBecause } from '../store'
import { deviceTable, networkTable, readWorkbookApart, WORKBOOK_LIMIT, workbookOf } from '../tables'
import type { AppContext } from './context'
import { fileName } from './fileName'
import { serve } from './serve'

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'

/** Tables in and out: devices as CSV and XLSX, workbooks read, reservation lists. */
export function tableRoutes({ store, workbookWorker }: AppContext): Router {
  const routes = Router()

  serve(routes, api.devicesAsCsv, async ({ params, response }) => {
    const job = await store.jobs.get(params.jobId)
    const { head, rows } = deviceTable(job)
    const text = csvText([head, ...rows])
    response
      .attachment(`${fileName(job.name)}-devices.csv`)
      .type('text/csv; charset=utf-8')
      .send(text)
    return text
  })

  serve(routes, api.devicesAsWorkbook, async ({ params, response }) => {
    const job = await store.jobs.get(params.jobId)
    const workbook = await workbookOf([deviceTable(job), networkTable(job)])
    response
      .attachment(`${fileName(job.name)}-devices.xlsx`)
      .type(XLSX)
      .send(workbook)
    return workbook
  })

  serve(routes, api.reservations, async ({ params, response }) => {
    const job = await store.jobs.get(params.jobId)
    const id = params.format
    if (!Object.hasOwn(reservationFormats, id))
      throw refusedBecause('There is no such format.', Object.keys(reservationFormats).join(', '), id, 'format')
    const format = reservationFormats[id as ReservationFormatId]
    const text = format.write(reservationsOf(job).ready)
    response
      .attachment(`${fileName(job.name)}-reservations.${format.extension}`)
      .type('text/plain; charset=utf-8')
      .send(text)
    return text
  })

  serve(
    routes,
    api.readWorkbook,
    ({ request }) => {
      const bytes: unknown = request.body
      return readWorkbookApart(bytes instanceof Uint8Array ? bytes : new Uint8Array(), workbookWorker)
    },
    express.raw({ type: () => true, limit: WORKBOOK_LIMIT }),
  )

  return routes
}
