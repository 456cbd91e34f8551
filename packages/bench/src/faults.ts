import type { Faults } from '@calm/contract/live'

export const noFaults: Faults = {
  silent: false,
  slow: false,
  wrongUnit: false,
  exception2: false,
  wordsSwapped: false,
  mapShifted: false,
}

/** How late a slow stand-in answers. Longer than the response timeout of the live exchange. */
export const SLOW_MS = 2500
