import { problemsOf } from '@calm/contract'
import type { Endpoint, ParamsOf } from '@calm/contract/api'
import { schemaOf } from '@calm/contract/bodies'
import type { Request, RequestHandler, Response, Router } from 'express'
import type { Schema } from 'joi'
import { Refused } from '../store'

/** More than these help nobody. */
const MOST_PROBLEMS = 200

/** What a handler is given: the names of its path, the body as its schema let it through, and who asks. */
export interface Asked<P extends string, B> {
  readonly params: ParamsOf<P>
  readonly body: B
  readonly who: string
  readonly request: Request
  readonly response: Response
}

/** The body, checked by its schema. All problems are told at once, and nothing is converted silently. */
function bodyOf<B>(request: Request, schema: Schema | undefined): B {
  if (!schema) return undefined as B
  const { error, value } = schema.validate(request.body ?? {}, { abortEarly: false, convert: false })
  if (error) throw new Refused(400, problemsOf(error).slice(0, MOST_PROBLEMS))
  return value as B
}

/** What runs before the handler: a reader of the body, a question of rights. */
export type Before = RequestHandler

/**
 * Serves one endpoint of the contract: its path, its body and what it answers are those that the page was made with.
 * A handler that has answered by itself, a file for example, leaves it at that.
 */
export function serve<P extends string, B, A>(
  routes: Router,
  endpoint: Endpoint<P, B, A>,
  handler: (asked: Asked<P, B>) => Promise<A> | A,
  ...before: readonly Before[]
): void {
  const schema = schemaOf(endpoint)
  routes[endpoint.method](endpoint.path, ...before, async (request, response) => {
    const answer = await handler({
      params: request.params as object as ParamsOf<P>,
      body: bodyOf<B>(request, schema),
      who: request.who.name,
      request,
      response,
    })
    if (response.headersSent || response.writableEnded || response.destroyed) return
    if (answer === undefined) response.status(endpoint.status).end()
    else response.status(endpoint.status).json(answer)
  })
}
