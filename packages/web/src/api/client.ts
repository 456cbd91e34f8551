import type { Problem, ProblemBody } from '@calm/contract'

/** The server refused: every problem with its place. With status 409 `current` is the row as it stands now. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly problems: readonly Problem[],
    readonly current?: unknown,
  ) {
    super(problems.map((problem) => problem.what).join(' '))
  }
}

/** Sends a request and reads its answer. Whatever is not 2xx becomes a `ProblemError`; no answer at all a `TypeError`. */
export async function request<T>(method: string, path: string, body?: unknown): Promise<T> {
  const isText = typeof body === 'string'
  const response = await fetch(`/api${path}`, {
    method,
    ...(body !== undefined && {
      headers: { 'content-type': isText ? 'text/plain' : 'application/json' },
      body: isText ? body : JSON.stringify(body),
    }),
  })
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as T
  const content = (await response.json().catch(() => undefined)) as ProblemBody | undefined
  const problems = content?.problems ?? [
    { what: `The server answered ${response.status} without a reason.`, where: path, expected: '', found: '' },
  ]
  throw new ProblemError(response.status, problems, content?.current)
}
