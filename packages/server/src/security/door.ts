import type { Problem } from '@calm/contract'
import { textProblems } from '@calm/contract'
import type { RequestHandler } from 'express'
import { foreignCharacterIn } from '@calm/core/units'
import { Refused } from '../store'

/**
 * What no request may carry, whatever it is for: control characters in any text (a NUL cuts a text where it is read
 * again), nesting without end, and names of fields that mean something to the language.
 */
export const plainRequests: RequestHandler = (request, _response, next) => {
  const path = decoded(request.url)
  const foreign = foreignCharacterIn(path)
  if (foreign !== undefined) throw new Refused(400, [foreignInPath(foreign)])
  const problems = textProblems(request.body)
  if (problems.length > 0) throw new Refused(400, problems)
  next()
}

function decoded(url: string): string {
  try {
    return decodeURIComponent(url)
  } catch {
    throw new Refused(400, [
      { what: 'The address is not well written.', where: '', expected: 'UTF-8 behind each %', found: url.slice(0, 80) },
    ])
  }
}

const foreignInPath = (character: string): Problem => ({
  what: `The address holds a control character, ${character}.`,
  where: '',
  expected: 'characters that can be read',
  found: character,
})
