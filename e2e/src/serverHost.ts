import { fileURLToPath } from 'node:url'
import { pino } from 'pino'
import { start, type Running } from '../../packages/server/src/start'
import type { FromHost, ToHost } from './hosting'

const webRoot = fileURLToPath(new URL('../../dist/web', import.meta.url))
const workbookWorker = fileURLToPath(new URL('../../dist/server/workbook.worker.mjs', import.meta.url))
const log = pino({ level: 'warn' }, pino.destination({ dest: 2, sync: true }))
const running = new Map<number, Running>()

async function obey(asked: ToHost): Promise<void> {
  if (asked.what === 'start') {
    const { dataDir, port, host, demo } = asked
    running.set(port, await start({ dataDir, port, host, demo, benchPort: 0, webRoot, workbookWorker, log }))
    return
  }
  await running.get(asked.port)?.stop()
  running.delete(asked.port)
}

/** Each request is answered under its number; servers at different ports are begun side by side. */
const answer = (said: FromHost) => void process.send?.(said)

process.umask(0o077)
process.on('message', (asked: ToHost) => {
  obey(asked).then(
    () => answer({ id: asked.id }),
    (reason: unknown) => answer({ id: asked.id, failed: reason instanceof Error ? reason.message : String(reason) }),
  )
})
// Whoever asked is gone: nothing is left running.
process.on('disconnect', () => process.exit(0))
