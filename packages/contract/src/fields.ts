import { parseIpv4 } from '@calm/core/address'
import type { Result } from '@calm/core/units'
import type { Mode } from '@calm/core/job'
import { rungs } from '@calm/core/ladder'
import Joi from 'joi'

/** A text that core can read; what core refuses carries core's reason, expectation and offers. */
export const textReadBy = (read: (text: string) => Result<unknown>, most = 200): Joi.StringSchema =>
  readText(read, most, (text) => text)

/** The same, kept in the one notation in which core reads it. */
export const textKeptAsRead = (read: (text: string) => Result<unknown>, most: number): Joi.StringSchema =>
  readText(read, most, (_text, value) => String(value))

function readText(
  read: (text: string) => Result<unknown>,
  most: number,
  keep: (text: string, value: unknown) => string,
): Joi.StringSchema {
  return Joi.string()
    .trim()
    .max(most)
    .custom((text: string, helpers) => {
      const outcome = read(text)
      return outcome.ok ? keep(text, outcome.value) : helpers.error('core.refused', { refusal: outcome.refusal })
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

export const mode = Joi.string<Mode>().valid('plant', 'bench')
export const rung = Joi.string().valid(...rungs.map((each) => each.id))
