import { createServer } from 'node:net'

/**
 * Below the range from which systems hand out ports by themselves (32 768 and up on Debian, 49 152 by RFC 6335): what
 * is found free there is not taken a moment later by a stand-in or by an outgoing connection of another test.
 */
const FIRST = 20_000
const PER_WORKER = 1_000
const SHARES = 12

/** Each worker of the tests searches a share of its own, each process of a worker begins elsewhere in it. */
const share = FIRST + (Number(process.env['TEST_PARALLEL_INDEX'] ?? SHARES - 1) % SHARES) * PER_WORKER
let next = process.pid % PER_WORKER

/**
 * A free port of this machine, never the same twice from one process.
 * @throws Error when none of a share is free
 */
export async function freePort(): Promise<number> {
  for (let k = 0; k < PER_WORKER; k += 1) {
    const port = share + next
    next = (next + 1) % PER_WORKER
    if (await isFree(port)) return port
  }
  throw new Error(`No port from ${share} to ${share + PER_WORKER - 1} is free`)
}

function isFree(port: number): Promise<boolean> {
  return new Promise((done) => {
    const probe = createServer()
    probe.once('error', () => done(false))
    probe.listen(port, '127.0.0.1', () => probe.close(() => done(true)))
  })
}
