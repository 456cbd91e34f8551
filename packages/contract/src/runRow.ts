import { waysOfSetting } from '@calm/core/kind'
import { checkIds, phases, recordIds, runPlaces, stepKinds, type RunFacts } from '@calm/core/procedure'
import Joi from 'joi'
import { kindId, lampMeaning } from './kindRow'
import { line } from './fields'
import { filledLine } from './filledLine'

const keys = (record: object) => Object.keys(record)

const sentence = filledLine(400).min(1)
const sentences = Joi.array().items(sentence).max(20)
const acts = Joi.array()
  .items(Joi.valid('powers', 'writes', 'wires'))
  .unique()
  .max(3)

const step = Joi.object({
  id: kindId.required(),
  phase: Joi.valid(...phases).required(),
  kind: Joi.valid(...keys(stepKinds)).required(),
  say: sentence.required(),
  why: sentence,
  protects: Joi.valid('people', 'plant', 'data'),
  acts,
  covers: acts,
  type: sentences,
  menu: kindId,
  lamps: Joi.array().items(lampMeaning).max(20),
  normal: sentences,
  otherwise: Joi.array()
    .items(Joi.object({ saw: sentence.required(), likely: sentence.required(), check: sentence.required() }))
    .max(20),
  seconds: Joi.alternatives(Joi.valid('start-up'), Joi.number().integer().min(1).max(86_400).strict()),
  watch: Joi.valid('back-at-present', 'back-at-planned', 'gone', 'gone-and-back'),
  check: Joi.valid(...keys(checkIds)),
  record: Joi.valid(...keys(recordIds)),
  leaves: Joi.object({ what: sentence.required(), putBack: sentence.required() }),
  putsBack: sentence,
  onlyIf: Joi.object({ decided: kindId.required(), as: sentence.required() }),
  onlyWhere: Joi.valid('factory-known', 'factory-unknown', 'addressed', 'not-addressed', 'named-elsewhere'),
  becomes: Joi.valid('dead', 'live', 'at-factory', 'entered'),
  laptop: Joi.valid('present', 'planned'),
  choices: Joi.array()
    .items(Joi.object({ say: sentence.required(), then: sentence.required() }))
    .min(2)
    .max(8),
})

/** What belongs to a kind of step, and whether it must be there. */
const needs: Readonly<Record<string, string>> = { wait: 'seconds', record: 'record', check: 'check', decide: 'choices' }

/** A run, field by field, with what must hold among its steps: each act has a caution before it. */
export const runFactsSchema = Joi.object<RunFacts>({
  id: kindId.required(),
  name: line.min(2).max(80).required(),
  about: line.max(400).required(),
  kinds: Joi.array().items(kindId).max(100).unique().required(),
  ways: Joi.array()
    .items(Joi.valid(...keys(waysOfSetting)))
    .unique()
    .required(),
  places: Joi.array()
    .items(Joi.valid(...keys(runPlaces)))
    .unique(),
  whenChosen: Joi.boolean().strict(),
  onDemand: Joi.valid('only', 'also'),
  together: Joi.valid(true),
  steps: Joi.array().items(step).min(1).max(200).unique('id').required(),
})
  .custom((run: RunFacts, helpers) => {
    const warned = new Set<string>()
    const choices = new Map<string, readonly string[]>()
    for (const phase of phases)
      for (const each of run.steps.filter((one) => one.phase === phase)) {
        each.covers?.forEach((act) => warned.add(act))
        const bare = each.acts?.find((act) => !warned.has(act))
        if (bare) return helpers.error('run.caution', { step: each.id, act: bare })
        const needed = needs[each.kind]
        if (each.onlyIf && !choices.get(each.onlyIf.decided)?.includes(each.onlyIf.as))
          return helpers.error('run.only-if', { step: each.id, ...each.onlyIf })
        if (each.choices)
          choices.set(
            each.id,
            each.choices.map(({ say }) => say),
          )
        if (needed && !(needed in each)) return helpers.error('run.needs', { step: each.id, kind: each.kind, needed })
      }
    return run
  })
  .messages({
    'run.caution': 'Step {{#step}} {{#act}}, and no caution before it covers that',
    'run.only-if':
      'Step {{#step}} hangs on the decision {{#decided}} taken as {{#as}}, and no step before it offers that',
    'run.needs': 'Step {{#step}} is of kind {{#kind}} and has no {{#needed}}',
  })
