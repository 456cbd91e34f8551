import { api } from '@calm/contract/api'
import { reservationFormats, reservationsOf, type ReservationFormatId } from '@calm/core/lineUp'
import { deviceOf } from '@calm/core/job'
import { commandRows, mapRows, packingOf } from '@calm/core/points'
import { csvText } from '@calm/core/table'
import express, { Router } from 'express'
import { jobOfHandshake, notFound, refusedBecause } from '../store'
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

  serve(routes, api.pointsAsWorkbook, async ({ params, response }) => {
    const jobId = await store.read((manager) => jobOfHandshake(manager, params.id))
    const job = await store.jobs.get(jobId)
    const handshake = job.handshakes.find((each) => each.id === params.id)
    if (!handshake) throw notFound('handshake', params.id)
    const device = deviceOf(job, handshake.deviceId)
    const { packing } = packingOf(job, handshake)
    const toolAdds = deviceOf(job, handshake.controllerId)?.toolAddsOne ? 1 : 0
    const sheet = (name: string, [head = [], ...rows]: ReturnType<typeof mapRows>) => ({
      name,
      head: head.map(String),
      rows: rows.map((row) => row.map(String)),
    })
    const workbook = await workbookOf([
      sheet('Points', mapRows(job, handshake)),
      sheet('Requests', commandRows(packing.requests, String(device?.unitId ?? ''), toolAdds)),
    ])
    response
      .attachment(`${fileName(device?.tag ?? 'device')}-points.xlsx`)
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
