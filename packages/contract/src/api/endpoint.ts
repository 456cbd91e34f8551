import type Joi from 'joi'

/** Names in a path: `/jobs/:jobId/facts` has `jobId`. */
export type ParamsOf<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? { readonly [K in Name | keyof ParamsOf<`/${Rest}`>]: string }
  : P extends `${string}:${infer Name}`
    ? { readonly [K in Name]: string }
    : // eslint-disable-next-line @typescript-eslint/no-empty-object-type -- a path without names asks for nothing
      {}

/** One request of the API and its answer, said once for both ends: the server serves it, the page sends it. */
export interface Endpoint<P extends string = string, B = unknown, A = unknown> {
  readonly method: 'get' | 'post' | 'put' | 'delete'
  readonly path: P
  /** Only a type: what is sent. Its schema stands in `bodies.ts`, so that a page need not load all of them. */
  readonly body?: B
  /** What comes back with good news. */
  readonly status: number
  /** Only a type: what is answered. */
  readonly answer?: A
}

/** What a schema lets through. */
export type Let<S> = S extends Joi.ObjectSchema<infer B> ? B : never

/** An endpoint in two steps, so that its answer and its body are said and the rest is found out. */
const endpoint =
  (method: Endpoint['method'], usualStatus: number) =>
  <A, B = undefined>() =>
  <P extends string>(path: P, status = usualStatus): Endpoint<P, B, A> => ({ method, path, status })

export const get = endpoint('get', 200)
export const post = endpoint('post', 201)
export const put = endpoint('put', 200)
export const del = endpoint('delete', 204)
/** Something is done, and there is nothing to answer. */
export const DONE = 204
export const ACCEPTED = 202
export const LOOKED = 200

/** The path of an endpoint with its names filled in. @example pathOf(api.job, { jobId: 'a' }) // '/jobs/a' */
export function pathOf<P extends string>({ path }: Pick<Endpoint<P>, 'path'>, params: ParamsOf<P>): string {
  const given = params as Readonly<Record<string, string>>
  return path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(given[name] ?? ''))
}
