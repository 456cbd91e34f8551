import type { WaitRecord } from './record'

/** What one look at the watched address saw. */
export interface WaitLook {
  /** A port is open, or refuses. */
  readonly answers: boolean
  /** A port is open. */
  readonly serves: boolean
  /** The time that was given is over. */
  readonly over: boolean
}

/**
 * Whether the device that a wait looks for has come back. Where it is to be seen to go first, an answer from before
 * that says nothing. It refuses for a while before it is in service: before the time is over only an open port counts;
 * afterwards any answer does.
 */
export function hasReturned(
  wait: Pick<WaitRecord, 'watch' | 'oldAddress' | 'newAddress' | 'seenGoneAt'>,
  { answers, serves, over }: WaitLook,
): boolean {
  if (!answers) return false
  if (over) return true
  const staysThere = wait.watch === 'back-at-planned' && wait.oldAddress === wait.newAddress
  const mustGo = wait.watch === 'gone-and-back' || staysThere
  return serves && (!mustGo || wait.seenGoneAt !== null)
}
