import type { Expectation, Sample } from '@calm/core/explain'
import { useSyncExternalStore } from 'react'
import type { PastedWords } from './readWords'

/** One look at the registers around a point: read live, pasted or typed, and what was shown further on. */
export interface Look extends Sample {
  readonly words: readonly (number | undefined)[]
  readonly first: number
  /** How it was come by. */
  readonly origin: string
  readonly tag: number | undefined
  readonly screen: number | undefined
  /** Words further on, in the memory of a gateway or a controller. */
  readonly between?: PastedWords
  /** Words of another unit, from the same registers: what may have come instead. */
  readonly other?: PastedWords
  /** Half of the last digit, where they were typed. */
  readonly tagAllowed?: number
  readonly screenAllowed?: number
}

/** What a person has gathered about one point. It stays while the page is open, whatever is looked at in between. */
export interface Gathered {
  readonly looks: readonly Look[]
  readonly expect: Expectation | undefined
}

const NOTHING: Gathered = { looks: [], expect: undefined }
let all: ReadonlyMap<string, Gathered> = new Map()
const listeners = new Set<() => void>()

function put(pointId: string, gathered: Gathered) {
  all = new Map(all).set(pointId, gathered)
  for (const listener of listeners) listener()
}
const listen = (listener: () => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** What is gathered about every point. */
export const useGathered = (): ReadonlyMap<string, Gathered> => useSyncExternalStore(listen, () => all)

export const gatheredOf = (pointId: string): Gathered => all.get(pointId) ?? NOTHING
export const addLook = (pointId: string, look: Look) =>
  put(pointId, { ...gatheredOf(pointId), looks: [...gatheredOf(pointId).looks, look] })
export const setLook = (pointId: string, at: number, change: Partial<Look>) =>
  put(pointId, {
    ...gatheredOf(pointId),
    looks: gatheredOf(pointId).looks.map((look, k) => (k === at ? { ...look, ...change } : look)),
  })
export const removeLook = (pointId: string, at: number) =>
  put(pointId, { ...gatheredOf(pointId), looks: gatheredOf(pointId).looks.filter((_, k) => k !== at) })
export const setExpected = (pointId: string, expect: Expectation | undefined) =>
  put(pointId, { ...gatheredOf(pointId), expect })
export const forgetLooks = (pointId: string) => put(pointId, { ...gatheredOf(pointId), looks: [] })

/** Windows that begin at different registers, brought to one beginning: what was not given is open. */
export function aligned(looks: readonly Look[]): { readonly first: number; readonly samples: readonly Sample[] } {
  const first = Math.min(...looks.map((look) => look.first))
  const samples = looks.map(({ first: own, words, at, expect }) => ({
    at,
    expect,
    words: [...Array.from({ length: own - first }, () => undefined), ...words],
  }))
  return { first: looks.length === 0 ? 0 : first, samples }
}
