import { fork, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'
import type { DemoJobs } from '../../packages/server/src/demo'
import { serverBuild } from '../../tools/build.mjs'

export type ToHost = { readonly id: number; readonly port: number } & (
  | { readonly what: 'start'; readonly dataDir: string; readonly host: string | undefined; readonly demo: DemoJobs }
  | { readonly what: 'stop' }
)

export interface FromHost {
  readonly id: number
  /** Why it could not be done. */
  readonly failed?: string
}

type Asked = ToHost extends infer Each ? (Each extends ToHost ? Omit<Each, 'id'> : never) : never

const folder = fileURLToPath(new URL('../../.cache/e2e-server', import.meta.url))

/** Builds the process that the tests' servers run in. */
export async function buildHost(): Promise<void> {
  const entry = fileURLToPath(new URL('./serverHost.ts', import.meta.url))
  await build({ ...serverBuild, entryPoints: { host: entry }, outdir: folder })
}

/**
 * A process that runs the servers of a worker's tests, one after the other or side by side. To load the program anew for
 * each file of tests took longer than most of them do in it; the tests of the commands, and of servers that are killed,
 * start the program itself.
 */
class ServerHost {
  readonly #child: ChildProcess
  readonly #waiting = new Map<number, (said: FromHost) => void>()
  #asked = 0
  gone = false

  constructor() {
    this.#child = fork(join(folder, 'host.mjs'), { stdio: ['ignore', 'ignore', 'inherit', 'ipc'] })
    this.#child.on('message', (said: FromHost) => this.#hear(said))
    this.#child.on('exit', (code) => {
      this.gone = true
      for (const id of [...this.#waiting.keys()]) this.#hear({ id, failed: `The server's process ended with ${code}` })
    })
    this.#rest()
  }

  /** @throws Error with what the server said, or when its process ended instead */
  async ask(asked: Asked): Promise<void> {
    if (this.gone) {
      // What ran in it ended with it: only a start is amiss.
      if (asked.what === 'start') throw new Error('The process for the servers of tests has ended')
      return
    }
    const id = (this.#asked += 1)
    this.#child.ref()
    this.#child.channel?.ref()
    const { failed } = await new Promise<FromHost>((done) => {
      this.#waiting.set(id, done)
      this.#child.send({ ...asked, id } satisfies ToHost)
    })
    if (failed !== undefined) throw new Error(failed)
  }

  /** Holds everything that runs in it still, or lets it go on: connections stay open and nothing comes over them. */
  freeze(still: boolean): void {
    this.#child.kill(still ? 'SIGSTOP' : 'SIGCONT')
  }

  #hear(said: FromHost): void {
    this.#waiting.get(said.id)?.(said)
    this.#waiting.delete(said.id)
    if (this.#waiting.size === 0) this.#rest()
  }

  /** While nothing is asked of it, it keeps nobody from ending; it ends with whoever made it. */
  #rest(): void {
    this.#child.unref()
    this.#child.channel?.unref()
  }
}

let host: ServerHost | undefined

/** The host of this process; a new one after one that ended. */
export function serverHost(): ServerHost {
  if (!host || host.gone) host = new ServerHost()
  return host
}
