import { silentOnes } from './advice'
import { loadOf, type LineTiming, type Poll } from './polls'
import { usualRates } from './settings'

/** The time of a round at each usual bit rate, with so many units silent. */
export interface RoundCurve {
  readonly silent: number
  /** In the order of `usualRates`; `undefined` where there is no round. */
  readonly roundsMs: readonly (number | undefined)[]
}

/** How the time of a round goes with the bit rate, for each of these numbers of silent units. */
export const roundCurves = (
  line: LineTiming,
  polls: readonly Poll[],
  silents: readonly number[],
): readonly RoundCurve[] =>
  silents.map((silent) => ({
    silent,
    roundsMs: usualRates.map((baudRate) => {
      const at = { ...line, settings: { ...line.settings, baudRate } }
      return loadOf(at, silentOnes(at, polls, silent)).roundMs
    }),
  }))
