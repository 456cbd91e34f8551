import { foundText } from '@calm/contract'
import { api, type Fronts } from '@calm/contract/api'
import { frontAct } from '@calm/contract/walk'
import type { FrontAct } from '@calm/contract/live'
import { Router } from 'express'
import { serialPorts } from '../serial'
import { notFound, refusedBecause } from '../store'
import type { AppContext } from './context'
import { serve } from './serve'

/** Stand-ins: their switches, their fronts, the laptop of the bench; and the serial ports of this one. */
export function benchRoutes(app: AppContext): Router {
  const routes = Router()
  const { bench, log } = app
  const fronts = (): Fronts => ({ fronts: bench?.fronts() ?? [], laptop: bench?.laptop ?? null })

  serve(routes, api.bench, () => bench?.list() ?? [])

  serve(routes, api.setFaults, ({ params, body }) => {
    if (!bench?.setFaults(params.tag, body)) throw notFound('stand-in', params.tag)
    log.info({ tag: params.tag, switches: body }, 'bench switches set')
    return bench.list()
  })

  serve(routes, api.fronts, fronts)

  // One message for all that cannot be done: the alternatives of the schema would be told one by one.
  serve(routes, { ...api.act, body: undefined }, async ({ params, request }) => {
    const { error, value } = frontAct.validate(request.body ?? {}, { convert: false })
    if (error)
      throw refusedBecause('That cannot be done at a front.', 'power, plug, press or turn', foundText(request.body))
    if (!(await bench?.act(params.tag, value as FrontAct))) throw notFound('front', params.tag)
    log.info({ tag: params.tag, act: value }, 'bench front')
    return fronts()
  })

  serve(routes, api.setBenchLaptop, ({ body }) => {
    const tags = bench?.fronts().map((front) => front.tag) ?? []
    if (body.cable !== 'switch' && !tags.includes(body.cable))
      throw refusedBecause(
        'The cable goes to the switch or to a stand-in.',
        `switch, ${tags.join(', ')}`,
        body.cable,
        'cable',
      )
    bench?.setLaptop(body)
    return fronts()
  })

  serve(routes, api.deliver, async () => {
    await bench?.deliver()
    return fronts()
  })

  serve(routes, api.serialPorts, () => serialPorts())

  return routes
}
