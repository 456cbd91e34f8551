/** Numbers that look random and are the same each time, so that a plan does not change by being looked at again. */
export type Chance = (below: number) => number

/** A linear congruential step with the usual constants of a 32-bit word, from memory. */
export function chance(seed = 1): Chance {
  let state = seed
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return Math.floor((state / 4_294_967_296) * below)
  }
}
