import type { Problem, ProblemBody } from '@calm/contract'
import { pathOf, type Endpoint, type ParamsOf } from '@calm/contract/api'
import { hearRevision } from './revisions'

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

/** A UUID of version 4; `crypto.randomUUID` is missing on pages that are not served from this machine. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  const hex = Array.from(bytes, (byte, k) =>
    (k === 6 ? (byte & 0x0f) | 0x40 : k === 8 ? (byte & 0x3f) | 0x80 : byte).toString(16).padStart(2, '0'),
  ).join('')
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5')
}

/** This page, among those that are open. */
export const thisPage = newId()

/** What a route reads by itself: the text of a file, the bytes of a workbook. */
type Raw = string | Uint8Array

/** Asks one endpoint of the API. Whatever is not 2xx becomes a `ProblemError`; no answer at all a `TypeError`. */
export const call = <P extends string, B, A>(
  endpoint: Endpoint<P, B, A>,
  params: ParamsOf<P>,
  body?: B | Raw | object,
  more?: Readonly<Record<string, string>>,
): Promise<A> => request<A>(endpoint.method.toUpperCase(), pathOf(endpoint, params), body, more)

/** Sends a request and reads its answer. Whatever is not 2xx becomes a `ProblemError`; no answer at all a `TypeError`. */
async function request<T>(
  method: string,
  path: string,
  body?: unknown,
  more: Readonly<Record<string, string>> = {},
): Promise<T> {
  const isBytes = body instanceof Uint8Array
  const isText = typeof body === 'string'
  const response = await fetch(`/api${path}`, {
    method,
    ...(body !== undefined && {
      headers: {
        'content-type': isBytes ? 'application/octet-stream' : isText ? 'text/plain' : 'application/json',
        ...more,
      },
      body: isText ? body : isBytes ? new Blob([body as BlobPart]) : JSON.stringify(body),
    }),
  })
  // An accepted request may come back without a body: that is no failure.
  if (method === 'GET') hearRevision(path, response.headers.get('x-revision'))
  if (response.ok) {
    const text = await response.text()
    return (text === '' ? undefined : JSON.parse(text)) as T
  }
  const content = (await response.json().catch(() => undefined)) as ProblemBody | undefined
  const problems = content?.problems ?? [
    { what: `The server answered ${response.status} without a reason.`, where: path, expected: '', found: '' },
  ]
  throw new ProblemError(response.status, problems, content?.current)
}
