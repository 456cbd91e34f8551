import { usualSettings, type OrderSettings } from '@calm/core/procedure'
import type { BringUpAction } from '@calm/core/sequence'
import Joi from 'joi'
import { id, version } from '../fields'
import { kindId } from '../kindRow'

const bits = Joi.number().integer().min(0).max(0xffffffff).strict().required()
const hostAddress = Joi.object({ address: bits, prefix: Joi.number().integer().min(0).max(32).strict().required() })
const groupId = Joi.string().max(200).required()
/** One action of the order. */
export const action = Joi.alternatives(
  Joi.object({
    kind: Joi.valid('laptop').required(),
    into: hostAddress.required(),
    leaves: hostAddress.allow(null).required(),
  }),
  Joi.object({ kind: Joi.valid('group-on', 'group-off').required(), groupId }),
  Joi.object({ kind: Joi.valid('cable').required(), into: Joi.string().max(80).required() }),
  Joi.object({
    kind: Joi.valid('set').required(),
    deviceId: id.required(),
    to: hostAddress.required(),
    parking: Joi.boolean().strict().required(),
    pending: Joi.boolean().strict().required(),
  }),
  Joi.object({ kind: Joi.valid('verify', 'lead-out', 'lead-in').required(), deviceId: id.required() }),
)

const seconds = Joi.number().integer().min(0).max(86_400).strict()
const flag = Joi.boolean().strict()
/** What an order is computed with. */
export const orderSettings = Joi.object<OrderSettings>({
  holds: Joi.valid(1, 2).required(),
  people: Joi.valid(1, 2).required(),
  preference: Joi.valid('seconds', 'fewest-changes').required(),
  laptopChange: seconds.required(),
  cableMove: seconds.required(),
  /** Came later: what an older file or page does not say is as usual. */
  leadMove: seconds.default(usualSettings.leadMove),
  groups: Joi.object()
    .pattern(Joi.string().max(200), Joi.object({ seconds, live: flag, mustStayLive: flag, chained: flag }))
    .required(),
  leftOut: Joi.array().items(id).max(5_000).unique().required(),
  runs: Joi.object().pattern(id, kindId).required(),
  /** Came later: an older file or page has none. */
  onDemand: Joi.array()
    .items(Joi.object({ id: id.required(), deviceId: id.required(), runId: kindId.required() }))
    .max(500)
    .unique('id')
    .default(usualSettings.onDemand),
  packed: Joi.array().items(Joi.string().max(300)).max(500).unique().default(usualSettings.packed),
})

export const orderPut = Joi.object<{ readonly version: number; readonly order: readonly BringUpAction[] }>({
  version: version.required(),
  order: Joi.array().items(action).max(5_000).required(),
})
export const settingsPut = Joi.object<{ readonly version: number; readonly settings: OrderSettings }>({
  version: version.required(),
  settings: orderSettings.required(),
})
