import type { WayBack } from '@calm/core/changes'
import { useSyncExternalStore } from 'react'

/** One thing that was done, with its way back. */
export interface Done {
  readonly say: string
  readonly back: WayBack
}

interface History {
  readonly done: readonly Done[]
  readonly undone: readonly Done[]
}

const MOST = 200
const none: History = { done: [], undone: [] }
/** Kept beside the page, so that a look at another stage does not lose it. */
const histories = new Map<string, History>()
const listeners = new Set<() => void>()

const put = (jobId: string, history: History) => {
  histories.set(jobId, history)
  for (const listener of listeners) listener()
}
const of = (jobId: string) => histories.get(jobId) ?? none

/** What is being sent: a step back waits for it, else it would take back the one before. */
const pending = new Map<string, Promise<unknown>>()

/** Runs after all that was begun before it. */
export function inTurn<T>(jobId: string, work: () => Promise<T>): Promise<T> {
  const turn = (pending.get(jobId) ?? Promise.resolve()).then(work, work)
  pending.set(
    jobId,
    turn.catch(() => undefined),
  )
  return turn
}

/** The history as it is at this moment. */
export const historyNow = of

/** What was done to a job from this page. */
export function useHistory(jobId: string): History {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => of(jobId),
  )
}

/** Something new was done: what was undone before cannot be redone any more. */
export function remember(jobId: string, entry: Done): void {
  put(jobId, { done: [...of(jobId).done.slice(1 - MOST), entry], undone: [] })
}

/** The last step was taken back; `again` brings it back. */
export function stepBack(jobId: string, again: Done | undefined): void {
  const { done, undone } = of(jobId)
  put(jobId, { done: done.slice(0, -1), undone: again ? [...undone, again] : [] })
}

/** The last step taken back was done again; `back` takes it back once more. */
export function stepForth(jobId: string, back: Done | undefined): void {
  const { done, undone } = of(jobId)
  put(jobId, { done: back ? [...done, back] : [], undone: undone.slice(0, -1) })
}
