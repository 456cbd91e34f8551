import type { Bench } from '@calm/bench'
import type { Mode } from '@calm/core/job'

export interface Target {
  readonly host: string
  readonly port: number
}

/** Where a planned address is to be found: itself on the plant, a loopback address on the bench. */
export function targetOf(bench: Bench | undefined, mode: Mode, address: string, port: number): Target | undefined {
  if (mode === 'plant') return { host: address, port }
  return bench?.resolveForLaptop(address, port)
}

export const targetText = ({ host, port }: Target): string => `${host}:${port}`
