import type { Mode } from '@calm/core/job'
import type { How } from '@calm/core/evidence'
import { rungs, type Rung } from '@calm/core/ladder'
import Joi from 'joi'
import type { Faults } from './live'
import { id, instant, line, mode, rung, tag, version } from './fields'

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
/** Evidence that a person gives: seen, typed or measured. */
interface NewEvidence {
  readonly rung: Rung
  readonly verdict: 'proven' | 'at-odds'
  readonly how: Exclude<How, 'read-live'>
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

export interface NewDecision {
  readonly rung: Rung
  readonly state: 'parked' | 'not-apply' | 'waiting' | 'none'
  readonly reason: string
}
export const newDecision = Joi.object<NewDecision>({
  rung: rung.required(),
  state: Joi.valid('parked', 'not-apply', 'waiting', 'none').required(),
  reason: line
    .max(400)
    .when('state', { is: 'none', then: Joi.string().allow('').required(), otherwise: Joi.string().min(3).required() }),
})

export const newForced = Joi.object<{ readonly where: string; readonly value: string }>({
  where: line.min(2).required(),
  value: line.min(1).required(),
})
export const versionOnly = Joi.object<{ readonly version: number }>({ version: version.required() })
export const me = Joi.object<{ readonly name: string }>({ name: line.min(1).max(60).required() })

export const faults = Joi.object<Faults>({
  silent: Joi.boolean().strict().required(),
  slow: Joi.boolean().strict().required(),
  wrongUnit: Joi.boolean().strict().required(),
  exception2: Joi.boolean().strict().required(),
  wordsSwapped: Joi.boolean().strict().required(),
  mapShifted: Joi.boolean().strict().required(),
})

/** The shortest passcode that is worth one. */
export const PASSCODE_MIN = 8
export const session = Joi.object<{ readonly name: string; readonly passcode: string }>({
  name: Joi.string().trim().min(1).max(60).required(),
  passcode: Joi.string().min(1).max(200).required(),
})
export const newPasscode = Joi.object<{ readonly passcode: string }>({
  passcode: Joi.string().min(PASSCODE_MIN).max(200).required(),
})
