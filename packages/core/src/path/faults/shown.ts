import type { PathSeen } from './hops'
import { meantBy } from './valueFaults'
import { trackAt } from './wordFaults'

/** What a hop shows of a point when it was last seen. */
export interface HopShown {
  readonly name: string
  readonly kind: 'words' | 'value'
  /** The point's own words; left out where the hop shows a number, or was not seen. */
  readonly words?: readonly number[] | undefined
  /** What the words mean by the plan, or the number that is shown. */
  readonly value?: number | undefined
}

/** The hops of a path in their order, each as it was last seen. */
export const hopsShown = (path: PathSeen): readonly HopShown[] =>
  path.hops.map((hop): HopShown => {
    const { name, kind } = hop
    if (hop.kind === 'value') return { name, kind, value: hop.samples.findLast((sample) => sample !== undefined) }
    const track = trackAt(hop, hop.at, path.registers)
    const last = track.findLastIndex((words) => words !== undefined)
    return { name, kind, words: track[last], value: meantBy(hop, path)[last] }
  })
