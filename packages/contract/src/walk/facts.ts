import { standings, type SettingFact, type WalkRecord } from '@calm/core/procedure'
import Joi from 'joi'
import { id, line } from '../fields'
import { runFactsSchema } from '../runRow'
import { note } from './steps'

export type NewFact = Pick<SettingFact, 'deviceId' | 'setting' | 'standing' | 'text' | 'how'>
export const newFact = Joi.object<NewFact>({
  deviceId: id.required(),
  setting: line.min(1).max(60).required(),
  standing: Joi.valid(...Object.keys(standings)).required(),
  // A list of hundreds of devices, as another screen copies it.
  text: note.min(1).max(40_000).required(),
  how: Joi.valid('typed', 'seen', 'measured').required(),
})

export interface NewTemporary {
  readonly what: string
  readonly putBack: string
}
export const newTemporary = Joi.object<NewTemporary>({
  what: line.min(2).max(200).required(),
  putBack: line.max(200).allow('').required(),
})

export const newRun = Joi.object<{ readonly facts: WalkRecord['runs'][number]['facts'] }>({
  facts: runFactsSchema.required(),
})
