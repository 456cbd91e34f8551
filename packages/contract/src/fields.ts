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

/** An id in the one form in which this program writes it: a UUID of version 4, small letters, with hyphens. */
export const id = Joi.string().pattern(
  /^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/,
  'a UUID of version 4 in small letters with hyphens',
)
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
/** The last moment that every calendar here can show: the end of the year 9999. */
const LAST_INSTANT = 253_402_300_799_999
export const instant = Joi.number().integer().min(0).max(LAST_INSTANT).strict()
export const finite = Joi.number().strict()
/** A day of the calendar, without a time. */
export const day = Joi.string().custom((text: string, helpers) => {
  const at = /^\d{4}-\d{2}-\d{2}$/.test(text) ? new Date(`${text}T00:00:00Z`) : undefined
  const isDay = at !== undefined && !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text)
  return isDay ? text : helpers.error('string.pattern.name', { name: 'a day as 2026-11-25' })
})
