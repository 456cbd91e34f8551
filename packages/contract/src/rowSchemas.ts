import { rowKinds, type Field, type Fields, type FieldType, type RowTable, type Shape } from '@calm/core/job'
import { termIds } from '@calm/core/terms'
import type { Tolerance } from '@calm/core/values'
import Joi from 'joi'
import { day, finite, id, line, tag, textKeptAsRead, textReadBy } from './fields'
import { kindFactsSchema, kindId, mirrorText } from './kindRow'
import { pathShapes } from './pathShapes'
import { placeSchema, served } from './place'

const octet = Joi.number().integer().min(0).max(255).strict()

const tolerance = Joi.alternatives<Tolerance>().try(
  Joi.object({ kind: Joi.valid('absolute').required(), amount: finite.min(0).required() }),
  Joi.object({ kind: Joi.valid('percent-of-reading').required(), percent: finite.min(0).max(100).required() }),
  Joi.object({
    kind: Joi.valid('percent-of-span').required(),
    percent: finite.min(0).max(100).required(),
    low: finite.required(),
    high: finite.greater(Joi.ref('low')).required(),
  }),
  Joi.object({
    kind: Joi.valid('resolution').required(),
    step: finite.greater(0).required(),
    steps: finite.min(0).max(1000).required(),
  }),
)

/** Contents with a form of their own. */
const shapes: Readonly<Record<Shape, Joi.Schema>> = {
  'address-rules': Joi.array()
    .items(
      Joi.object({ kind: kindId.required(), first: octet.required(), last: octet.min(Joi.ref('first')).required() }),
    )
    .max(200)
    .unique('kind'),
  'name-places': Joi.array()
    .items(
      Joi.object({
        where: line.min(1).required(),
        text: line.allow('').max(253).required(),
      }),
    )
    .max(20),
  mirrors: Joi.array()
    .items(Joi.object({ termId: Joi.valid(...termIds).required(), text: mirrorText.allow('').required() }))
    .unique('termId')
    .max(200),
  ...pathShapes,
  'kind-facts': kindFactsSchema,
  'kind-id': kindId,
  'device-ids': Joi.array().items(id).max(5000).unique(),
  served: Joi.object(served),
  source: placeSchema,
  reference: Joi.object({ value: finite.required(), origin: line.required().allow('') }),
  tolerance,
}

function schemaOfType(type: FieldType): Joi.Schema {
  switch (type.is) {
    case 'text': {
      if (type.tag) return tag.max(type.most)
      if (type.lines === 'many') return Joi.string().trim().max(type.most).allow('')
      const text = line.max(type.most)
      return type.least === 0 ? text.allow('') : text.min(type.least)
    }
    case 'read': {
      const text = type.keeps === 'read' ? textKeptAsRead(type.read, type.most) : textReadBy(type.read, type.most)
      return type.mayBeBlank ? text.allow('') : text
    }
    case 'whole': {
      const { least, most, except, otherwise } = type
      const between = except ? Array.from({ length: except[1] - except[0] + 1 }, (_, k) => except[0] + k) : []
      const number = Joi.number()
        .integer()
        .strict()
        .min(least)
        .max(most)
        .invalid(...between)
      const say = (text: string) => text.replace('{value}', '{{#value}}')
      return otherwise
        ? number.messages({ 'any.invalid': say(otherwise.except), 'number.max': say(otherwise.above) })
        : number
    }
    case 'number':
      return type.least === undefined ? finite : finite.min(type.least)
    case 'yes-no':
      return Joi.boolean().strict()
    case 'one-of':
      return Joi.string().valid(...type.values)
    case 'row':
      return id
    case 'day':
      return day
    case 'shape':
      return shapes[type.shape]
  }
}

/** The schema of one field, by its definition. */
export const schemaOf = (field: Field<unknown>): Joi.Schema => {
  const schema = schemaOfType(field.type)
  return field.open ? schema.allow(null) : schema
}

const mapFields = (fields: Fields, make: (schema: Joi.Schema, field: Field<unknown>) => Joi.Schema): Joi.SchemaMap =>
  Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, make(schemaOf(field), field)]))

/** A blank as a function of its own: Joi takes a bare function or object for something else. */
const orBlank = (schema: Joi.Schema, field: Field<unknown>) => schema.default(() => field.blank)

/** What a change may say of a row. */
export const fieldsToSet = (table: RowTable): Joi.SchemaMap => mapFields(rowKinds[table].fields, (schema) => schema)

/** What a new row must say: everything, so that nothing is meant that was not said. */
export const fieldsToAdd = (table: RowTable): Joi.SchemaMap =>
  mapFields(rowKinds[table].fields, (schema) => schema.required())

/** A row of a request that may leave out what stands blank. */
export const fieldsOrBlank = (table: RowTable): Joi.SchemaMap =>
  mapFields(rowKinds[table].fields, (schema, field) => ('blank' in field ? orBlank(schema, field) : schema.required()))

/** A row in a job file: what its first version had must be there, what came later may be blank. */
export const fieldsInFile = (table: RowTable): Joi.SchemaMap =>
  mapFields(rowKinds[table].fields, (schema, field) =>
    field.since > 1 && 'blank' in field ? orBlank(schema, field) : schema.required(),
  )
