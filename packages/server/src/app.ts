import { randomBytes } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import compression from 'compression'
import serveCompressed from 'express-static-gzip'
import express, { type ErrorRequestHandler, type Express, type Response } from 'express'
import helmet from 'helmet'
import type { Problem, ProblemBody } from '@calm/contract'
import { api as endpoints } from '@calm/contract/api'
import type { AppContext } from './routes/context'
import { benchRoutes } from './routes/bench'
import { jobRoutes } from './routes/jobs'
import { keptRoutes } from './routes/kept'
import { lookRoutes } from './routes/looks'
import { isFromHere } from './routes/nearby'
import { proofRoutes } from './routes/proof'
import { recordRoutes } from './routes/record'
import { streamRoutes } from './routes/stream'
import { surroundingRoutes } from './routes/surroundings'
import { tableRoutes } from './routes/tables'
import { walkRoutes } from './routes/walk'
import { gate, plainRequests, sameOrigin } from './security'
import { isContradiction, isDiskFull, Refused, REVISION_HEADER } from './store'

/** Everything but job files is small. */
const BODY_LIMIT = '200kb'
/** A table of 5 000 devices is larger. */
const CHANGES_LIMIT = '20mb'

/** Files may be large, and are not JSON of ours. */
const readByTheirRoute: readonly string[] = [endpoints.importJob.path, endpoints.readWorkbook.path]

/** The web application: security first, then the API, then the page. */
export function createApp(context: AppContext): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          // Dialogs lock the page's scrolling by a style element that carries this nonce.
          styleSrc: ["'self'", (_request, response) => `'nonce-${nonceOf(response as Response)}'`],
          fontSrc: ["'self'"],
          imgSrc: ["'self'", 'data:'],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use(sameOrigin(context.allowedHosts))
  app.use(
    compression({
      filter: (request, response) =>
        !request.path.endsWith('/stream') &&
        !isFromHere(request.socket.remoteAddress) &&
        compression.filter(request, response),
    }),
  )
  const api = express.Router()
  const json = express.json({ limit: BODY_LIMIT })
  // What is answered is about a plant, and as of now.
  api.use((_request, response, next) => {
    response.set('cache-control', 'no-store')
    next()
  })
  // Who asks comes before what is sent: nobody makes this program read a large body without a session.
  api.use(gate(context))
  api.use(endpoints.change.path, express.json({ limit: CHANGES_LIMIT }))
  api.use((request, response, next) =>
    readByTheirRoute.includes(request.path) || request.path.endsWith('/runs/import')
      ? next()
      : json(request, response, next),
  )
  api.use(plainRequests)
  // Taken before the answer is made: it may be newer than it says, never older.
  api.use('/jobs/:jobId', async (request, response, next) => {
    if (request.method === 'GET')
      response.set(REVISION_HEADER, String(await context.store.revisions.get(request.params.jobId)))
    next()
  })
  for (const routes of [
    surroundingRoutes,
    jobRoutes,
    proofRoutes,
    streamRoutes,
    recordRoutes,
    tableRoutes,
    walkRoutes,
    lookRoutes,
    keptRoutes,
    benchRoutes,
  ])
    api.use(routes(context))
  api.use((request) => {
    throw new Refused(404, [
      {
        what: 'There is nothing at this address.',
        where: request.path,
        expected: 'a path of the API',
        found: request.path,
      },
    ])
  })
  app.use('/api', api)
  if (context.webRoot !== undefined) servePage(app, context.webRoot)
  app.use(tellProblems(context))
  return app
}

export interface RouteFacts {
  readonly method: string
  readonly path: string
}

interface Layer {
  readonly route?: { readonly path: string; readonly methods: Readonly<Record<string, boolean>> }
  readonly handle: { readonly stack?: readonly Layer[] }
}

/** Every route of the API, as it is served: for tests that go through all of them. */
export function routesOf(app: Express): readonly RouteFacts[] {
  const found: RouteFacts[] = []
  const visit = (layers: readonly Layer[]) => {
    for (const { route, handle } of layers) {
      if (route && typeof route.path === 'string')
        for (const method of Object.keys(route.methods)) found.push({ method: method.toUpperCase(), path: route.path })
      if (handle.stack) visit(handle.stack)
    }
  }
  visit((app as unknown as { readonly router: { readonly stack: readonly Layer[] } }).router.stack)
  return found.filter(({ path }) => !path.includes('*') && path !== '/')
}

/** One nonce for each answer, made when the first asks for it. */
function nonceOf(response: Response): string {
  response.locals.nonce ??= randomBytes(16).toString('base64')
  return response.locals.nonce
}

function servePage(app: Express, root: string): void {
  // The build leaves each file compressed beside itself; compressing them anew cost more than all else of opening a page.
  const folder = join(root, 'assets')
  const serveStatic = { immutable: true, maxAge: '1y', fallthrough: false }
  const plain = express.static(folder, { ...serveStatic, index: false })
  const compressed = serveCompressed(folder, {
    enableBrotli: true,
    orderPreference: ['br', 'gzip'],
    index: false,
    serveStatic,
  })
  app.use('/assets', (request, response, next) =>
    (isFromHere(request.socket.remoteAddress) ? plain : compressed)(request, response, next),
  )
  app.use(express.static(root, { index: false }))
  const page = readFileSync(join(root, 'index.html'), 'utf8')
  app.get(['/', '/*rest'], (_request, response) => {
    response
      .type('html')
      .set('cache-control', 'no-cache')
      .send(page.replace('NONCE', nonceOf(response)))
  })
}

const plainReasons: Readonly<Record<number, string>> = {
  404: 'There is nothing at this address.',
  405: 'That cannot be done here.',
  413: 'This is too large.',
  415: 'The request is written in a way that is not read here.',
}

interface UnsavedKind {
  readonly status: number
  readonly level: 'warn' | 'error'
  /** For the server's log. */
  readonly heading: string
  readonly problem: Omit<Problem, 'where'>
}

/** What the store itself refuses, and how it is told. */
const unsaved: readonly (UnsavedKind & { readonly is: (error: unknown) => boolean })[] = [
  {
    is: isDiskFull,
    status: 507,
    level: 'error',
    heading: 'disk full',
    problem: {
      what: 'The disk of this server is full. Nothing of this was saved, and nothing that was saved is lost. Make room and send it again.',
      expected: 'room on the disk',
      found: 'none',
    },
  },
  {
    is: isContradiction,
    status: 422,
    level: 'warn',
    heading: 'contradicts what is stored',
    problem: {
      what: 'This contradicts what is stored: an id that is used already, or a link to a row that is not there. Nothing was saved.',
      expected: 'ids of their own, and links to rows of this job',
      found: '',
    },
  },
]

const unforeseen: UnsavedKind = {
  status: 500,
  level: 'error',
  heading: 'unforeseen',
  problem: {
    what: 'Something went wrong on our side; it is in the server’s log. Nothing was saved.',
    expected: '',
    found: '',
  },
}

/** Every refusal in one shape. What we did not foresee is logged and told without its insides. */
function tellProblems({ log }: AppContext): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) return next(error)
    const tell = (status: number, problems: readonly Problem[], current?: unknown) =>
      response.status(status).json({ problems, ...(current === undefined ? {} : { current }) } satisfies ProblemBody)
    if (error instanceof Refused) return tell(error.status, error.problems, error.current)
    if (error?.type === 'entity.too.large') {
      const size = `${(error.length / 1024 / 1024).toFixed(1)} MB`
      return tell(413, [
        {
          what: 'This is too large.',
          where: '',
          expected: `at most ${Math.round(error.limit / 1024)} kB`,
          found: size,
        },
      ])
    }
    if (error?.type === 'entity.parse.failed') {
      return tell(400, [
        { what: 'The request is not JSON.', where: '', expected: 'JSON', found: String(error.body).slice(0, 60) },
      ])
    }
    if (typeof error?.status === 'number' && error.status < 500) {
      return tell(error.status, [
        {
          what: plainReasons[error.status] ?? 'The request cannot be understood.',
          where: '',
          // What a library says may name files of this laptop; only what it says of the request itself is passed on.
          expected: typeof error.type === 'string' ? String(error.message) : 'a request this server understands',
          found: request.method,
        },
      ])
    }
    const kind = unsaved.find((each) => each.is(error)) ?? unforeseen
    log[kind.level]({ err: error, path: request.path }, kind.heading)
    return tell(kind.status, [{ where: '', ...kind.problem }])
  }
}
