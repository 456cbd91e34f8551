import { parseIpv4, parseRanges, parseSubnet } from '@calm/core/address'
import { parseHardwareAddress } from '@calm/core/identity'
import type { Result } from '@calm/core/units'
import Joi from 'joi'

/** A text that core can read; what core refuses carries core's reason, expectation and offers. */
export function textReadBy(read: (text: string) => Result<unknown>): Joi.StringSchema {
  return Joi.string()
    .trim()
    .max(200)
    .custom((text: string, helpers) => {
      const outcome = read(text)
      return outcome.ok ? text : helpers.error('core.refused', { refusal: outcome.refusal })
    })
    .messages({ 'core.refused': '{{#refusal.what}}' })
}

export const id = Joi.string().guid({ version: 'uuidv4' }).messages({ 'string.guid': '"{{#label}}" must be an id' })
export const version = Joi.number().integer().min(1).strict()
export const address = textReadBy(parseIpv4)
export const cidr = textReadBy(parseSubnet)
export const ranges = textReadBy(parseRanges).allow('')
/** A hardware address in any notation; it is kept in one. */
export const mac = Joi.string()
  .trim()
  .max(40)
  .custom((text: string, helpers) => {
    const outcome = parseHardwareAddress(text)
    return outcome.ok ? outcome.value : helpers.error('core.refused', { refusal: outcome.refusal })
  })
  .messages({ 'core.refused': '{{#refusal.what}}' })
export const line = Joi.string()
  .trim()
  .max(120)
  .pattern(/^[^\r\n]*$/, 'one line')
export const tag = Joi.string()
  .trim()
  .min(1)
  .max(40)
  .pattern(/^\S(.*\S)?$/, 'no spaces at the ends')
export const instant = Joi.number().integer().min(0).strict()
export const finite = Joi.number().strict()
