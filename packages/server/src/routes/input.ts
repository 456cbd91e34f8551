import { problemsOf } from '@calm/contract'
import type { Request } from 'express'
import type { ObjectSchema } from 'joi'
import { Refused } from '../store'

/** More than these help nobody. */
const MOST_PROBLEMS = 200

/** The body, checked by its schema. All problems are told at once, and nothing is converted silently. */
export function bodyOf<T>(request: Request, schema: ObjectSchema<T>): T {
  const { error, value } = schema.validate(request.body ?? {}, { abortEarly: false, convert: false })
  if (error) throw new Refused(400, problemsOf(error).slice(0, MOST_PROBLEMS))
  return value as T
}

/** One part of the path; Express gives a string or a list. */
export function partOf(request: Request, name: string): string {
  const value = request.params[name]
  return typeof value === 'string' ? value : ''
}
