import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'

/** The parent of a process; `undefined` where it cannot be told or the process is gone. */
function parentOf(pid: number): number | undefined {
  if (process.platform === 'win32') return undefined
  try {
    // The second field may hold anything in brackets; the parent is the second after them. Source: proc(5)
    const [, , parent] = readFileSync(`/proc/${pid}/stat`, 'utf8').replace(/^.*\)/s, 'x').split(' ')
    return Number(parent)
  } catch {
    const { status, stdout } = spawnSync('ps', ['-o', 'ppid=', '-p', String(pid)], { encoding: 'utf8' })
    return status === 0 ? Number(stdout) : undefined
  }
}

const LOOK_MS = 1_000

/**
 * Started through npm, the program ends with it: npm hands not every signal on, and there may be a shell between. The
 * parent and its parent are looked at; when either is another one than at the start, npm is gone.
 */
export function stopWithParents(stop: () => void): void {
  const lineNow = () => `${process.ppid} ${parentOf(process.ppid)}`
  const line = lineNow()
  const look = setInterval(() => {
    if (lineNow() === line) return
    clearInterval(look)
    stop()
  }, LOOK_MS)
  look.unref()
}
