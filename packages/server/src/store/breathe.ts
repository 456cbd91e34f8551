import { setImmediate } from 'node:timers/promises'

/** How long this program may work without looking at anything else. */
const STRETCH_MS = 15

/**
 * Lets everything else have its turn whenever a stretch of work has lasted long enough: a large write must not keep
 * requests, readings and rings waiting.
 */
export function breather(): () => Promise<void> {
  let since = performance.now()
  return async () => {
    if (performance.now() - since < STRETCH_MS) return
    await setImmediate()
    since = performance.now()
  }
}
