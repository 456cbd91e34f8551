/** A value is stale when so many of its intervals have gone by without another. */
export const STALE_INTERVALS = 3

/**
 * How old a value is that is to be read again and again, where that is too old to call it live.
 *
 * @param seen when it was read, ms since 1970
 * @param interval how long it takes from one reading to the next, ms
 * @returns its age in ms; `undefined` while it is fresh
 * @example staleMs(1000, 500, 2400) // undefined: 1.4 s, less than 3 × 500 ms
 */
export function staleMs(seen: number, interval: number, now: number): number | undefined {
  const age = now - seen
  return age > STALE_INTERVALS * interval ? age : undefined
}

/** @example ageText(12_300) // '12 s' */
export const ageText = (age: number): string =>
  age < 10_000
    ? `${(age / 1000).toFixed(1)} s`
    : age < 120_000
      ? `${Math.round(age / 1000)} s`
      : `${Math.round(age / 60_000)} min`
