import type { Mode } from '@calm/core/job'
import { rungs, type How, type Rung } from '@calm/core/ladder'
import Joi from 'joi'
import { id, instant, line, tag, version } from './fields'
import {
  allDeviceFields,
  allNetworkFields,
  allPortFields,
  deviceFields,
  laterDeviceFields,
  laterNetworkFields,
  laterPortFields,
  mode,
  networkFields,
  patchOf,
  pointFields,
  portFields,
  required,
  rung,
  termFields,
  type DeviceFields,
  type PortFields,
} from './rows'

/** What is sent to the server. Each schema stands beside the type of what it lets through. */
export interface NewJob {
  readonly name: string
  readonly place: string
  readonly mode: Mode
}
export const newJob = Joi.object<NewJob>({
  name: tag.max(80).required(),
  place: line.allow('').required(),
  mode: mode.required(),
})
export const jobPatch = patchOf({ name: tag.max(80), place: line.allow(''), mode })

export const newNetwork = Joi.object({ ...required(networkFields), ...laterNetworkFields })
export const networkPatch = patchOf(allNetworkFields)

export interface NewDevice extends DeviceFields {
  readonly port: PortFields | null
}
export const newDevice = Joi.object<NewDevice>({
  ...required(deviceFields),
  ...laterDeviceFields,
  port: Joi.object({ ...required(portFields), ...laterPortFields })
    .allow(null)
    .required(),
})
export const devicePatch = patchOf(allDeviceFields)
export const portPatch = patchOf(allPortFields)

export const newHandshake = Joi.object({
  controllerId: id.required(),
  deviceId: id.required().invalid(Joi.ref('controllerId')),
})

/** `version` 0 means: nobody has said anything of this term at this end yet. */
export const termPut = Joi.object({ ...required(termFields), version: version.min(0).required() })
export const pointPatch = patchOf(pointFields)

/** Evidence that a person gives: seen, typed or measured. */
export interface NewEvidence {
  readonly rung: Rung
  readonly verdict: 'proven' | 'at-odds'
  readonly how: How
  readonly value: string
}
/** Rungs that the server judges from its own readings. */
const serverSees: readonly Rung[] = ['reached', 'agreed', 'reading']
export const newEvidence = Joi.object<NewEvidence>({
  rung: Joi.valid(...rungs.map((each) => each.id).filter((each) => !serverSees.includes(each)))
    .required()
    .messages({ 'any.only': 'Reached, Agreed and Reading are recorded from what the server saw itself' }),
  verdict: Joi.valid('proven', 'at-odds').required(),
  how: Joi.valid('typed', 'seen', 'measured').required(),
  value: line.max(400).min(1).required(),
})

/** Evidence of a reading names the readings that the server made; the server judges them again by itself. */
export interface ReadingEvidence {
  readonly pointId: string
  readonly deviceReading: number
  /** `null` where the controller cannot be asked; then `controllerTyped` holds what its program shows. */
  readonly controllerReading: number | null
  readonly controllerTyped: string | null
  /** What the screen shows, typed; `null` where there is no screen. */
  readonly shownTyped: string | null
  readonly typedAt: number
}
export const readingEvidence = Joi.object<ReadingEvidence>({
  pointId: id.required(),
  deviceReading: Joi.number().integer().min(1).strict().required(),
  controllerReading: Joi.number().integer().min(1).strict().allow(null).required(),
  controllerTyped: line.allow(null).required(),
  shownTyped: line.allow(null).required(),
  typedAt: instant.required(),
})

export const newDecision = Joi.object({
  rung: rung.required(),
  state: Joi.valid('parked', 'not-apply', 'waiting', 'none').required(),
  reason: line
    .max(400)
    .when('state', { is: 'none', then: Joi.string().allow('').required(), otherwise: Joi.string().min(3).required() }),
})

export const newForced = Joi.object({ where: line.min(2).required(), value: line.min(1).required() })
export const versionOnly = Joi.object({ version: version.required() })
export const me = Joi.object({ name: line.min(1).max(60).required() })

export const faults = Joi.object({
  silent: Joi.boolean().strict().required(),
  slow: Joi.boolean().strict().required(),
  wrongUnit: Joi.boolean().strict().required(),
  exception2: Joi.boolean().strict().required(),
  wordsSwapped: Joi.boolean().strict().required(),
  mapShifted: Joi.boolean().strict().required(),
})
