import { byteOrders, dataTypes } from '@calm/core/values'
import Joi from 'joi'
import { finite, line } from './fields'

/** Where a controller serves a value, and as what. */
export const served = {
  register: line.required(),
  type: Joi.string()
    .valid(...Object.keys(dataTypes))
    .required(),
  order: Joi.string()
    .valid(...Object.keys(byteOrders))
    .required(),
}

/** Where a device keeps a value, where that is not what its terms say. */
export const placeSchema = Joi.object({ ...served, scale: finite.invalid(0).required(), offset: finite })
