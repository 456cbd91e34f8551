import { unknownFields } from '@calm/core/procedure'
import Joi from 'joi'

/** One line whose {fields} a job can fill in. @param most signs */
export const filledLine = (most: number): Joi.StringSchema =>
  Joi.string()
    .trim()
    .max(most)
    .pattern(/^[^\r\n]*$/, 'one line')
    .custom((text: string, helpers) => {
      const [unknown] = unknownFields(text)
      return unknown === undefined ? text : helpers.error('run.field', { name: unknown })
    })
    .messages({ 'run.field': 'There is no field {{#name}} that a job could fill in' })
