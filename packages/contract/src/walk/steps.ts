import Joi from 'joi'

export const stepKey = Joi.string().min(3).max(300)
export const note = Joi.string().trim().max(2_000).allow('')

/** Why something is settled otherwise than by doing it, or what was seen instead. */
export const reasonGiven = Joi.object<{ readonly note: string }>({
  note: Joi.string().trim().min(3).max(2_000).required(),
})

/** What is said of one step. `seen` is the version of its record as the page knew it, 0 for none. */
export interface StepSettling {
  readonly stepKey: string
  readonly state: 'done' | 'overridden' | 'parked' | 'unexpected'
  readonly note: string
  readonly seen: number
}
export const stepSettling = Joi.object<StepSettling>({
  stepKey: stepKey.required(),
  state: Joi.valid('done', 'overridden', 'parked', 'unexpected').required(),
  note: note.required(),
  seen: Joi.number().integer().min(0).strict().required(),
})

/** A stretch that is ticked at once: already done, all as drawn, or parked. */
export interface StretchSettling {
  readonly stepKeys: readonly string[]
  readonly state: 'done' | 'parked'
  readonly note: string
}
export const stretchSettling = Joi.object<StretchSettling>({
  stepKeys: Joi.array().items(stepKey).min(1).max(500).required(),
  state: Joi.valid('done', 'parked').required(),
  note: note.required(),
})

export const stepNamed = Joi.object<{ readonly stepKey: string }>({ stepKey: stepKey.required() })
