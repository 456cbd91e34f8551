import type { BringUpDevice } from '../model'

/** How people call a device. */
export const called = (device: BringUpDevice): string => device.name ?? device.id

/** @example listed(['A', 'B', 'C']) // 'A, B and C' */
export function listed(names: readonly string[]): string {
  if (names.length < 2) return names.join('')
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
}
