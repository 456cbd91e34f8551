import { standings, type WaitRecord } from '@calm/core/procedure'
import Joi from 'joi'
import { finite, id, instant, line, version } from '../fields'
import { runFactsSchema } from '../runRow'
import { action, orderSettings } from './order'
import { note, stepKey } from './steps'

const instantOrNone = instant.allow(null).required()
const watched = Joi.string().max(60).allow('').required()
const waitRecord = Joi.object<WaitRecord>({
  startedAt: instant.required(),
  seconds: finite.min(0).max(86_400).required(),
  watch: Joi.valid('back-at-present', 'back-at-planned', 'gone', 'gone-and-back', null).required(),
  oldAddress: watched,
  newAddress: watched,
  port: Joi.number().integer().min(0).max(65_535).strict().required(),
  seenGoneAt: instantOrNone,
  backAt: instantOrNone,
  triesAfter: Joi.number().integer().min(0).max(10_000).strict().required(),
  rangAt: instantOrNone,
})

/** A walk as it stands in a job file. */
const row = (fields: Readonly<Record<string, Joi.Schema>>) => Joi.object({ id: id.required(), ...fields })
const who = line.max(60).required()
export const walkInFile = Joi.object({
  version: version.required(),
  settings: orderSettings.required(),
  order: Joi.array().items(action).max(5_000).required(),
  steps: Joi.array()
    .items(
      row({
        stepKey: stepKey.required(),
        state: Joi.valid('done', 'overridden', 'parked', 'waiting', 'unexpected').required(),
        note: note.required(),
        who,
        at: instant.required(),
        wait: waitRecord.allow(null).required(),
        // Files of older programs do not have it.
        rests: Joi.object().pattern(line.max(60), note.max(20_000)).max(40).allow(null).default(null),
        version: version.required(),
      }),
    )
    .max(50_000)
    .required(),
  facts: Joi.array()
    .items(
      row({
        deviceId: id.required(),
        setting: line.max(60).required(),
        standing: Joi.valid(...Object.keys(standings)).required(),
        text: note.max(40_000).required(),
        how: Joi.valid('read-live', 'typed', 'seen', 'measured').required(),
        who,
        at: instant.required(),
      }),
    )
    .max(50_000)
    .required(),
  temporary: Joi.array()
    .items(
      row({
        what: line.max(200).required(),
        putBack: line.max(200).allow('').required(),
        who,
        at: instant.required(),
        backBy: line.allow(null).required(),
        backAt: instant.allow(null).required(),
        version: version.required(),
      }),
    )
    .max(5_000)
    .required(),
  runs: Joi.array()
    .items(row({ facts: runFactsSchema.required(), version: version.required() }))
    .max(200)
    .required(),
})
