import type { Problem } from '@calm/contract'

/** What a route answers instead of doing what was asked. Thrown inside a write, so that nothing of it stays. */
export class Refused extends Error {
  constructor(
    readonly status: 400 | 401 | 403 | 404 | 409 | 413 | 422 | 429,
    readonly problems: readonly Problem[],
    /** With 409: the row as it stands now. */
    readonly current?: unknown,
  ) {
    super(problems.map((problem) => problem.what).join(' '))
  }

  /** The same, one level deeper: each place gets the path before it. */
  within(path: string): Refused {
    const problems = this.problems.map((problem) => ({ ...problem, where: `${path}.${problem.where}` }))
    return new Refused(this.status, problems, this.current)
  }
}

/** The code of the database or the system behind an error, however deep it was wrapped. */
function codeOf(reason: unknown): string {
  const error = reason as { readonly code?: unknown; readonly driverError?: unknown } | null | undefined
  if (error?.driverError !== undefined) return codeOf(error.driverError)
  return typeof error?.code === 'string' ? error.code : ''
}

/** Whether there was no room to write. */
export function isDiskFull(reason: unknown): boolean {
  const message = reason instanceof Error ? reason.message : ''
  return ['SQLITE_FULL', 'ENOSPC', 'EDQUOT'].includes(codeOf(reason)) || /database or disk is full/i.test(message)
}

/** Whether the database found an id twice or a link to nothing. Routes look before; this is the last line. */
export const isContradiction = (reason: unknown): boolean => codeOf(reason).startsWith('SQLITE_CONSTRAINT')

export function notFound(what: string, id: string): Refused {
  return new Refused(404, [
    { what: `There is no such ${what}.`, where: 'id', expected: `the id of a ${what}`, found: id },
  ])
}

export function refusedBecause(what: string, expected: string, found: string, where = ''): Refused {
  return new Refused(422, [{ what, where, expected, found }])
}
