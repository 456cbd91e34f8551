import type { DeviceKindFacts, LampMeaning, Socket } from '../kind'

/** Short ways to write a kind down. */
export const steady = (lamp: string, colour: string, means: string): LampMeaning => ({
  lamp,
  pattern: { shape: 'steady', colour },
  means,
})
export const flashing = (lamp: string, colour: string, hertz: number, means: string): LampMeaning => ({
  lamp,
  pattern: { shape: 'flashing', colour, hertz },
  means,
})
export const shows = (lamp: string, text: string, means: string): LampMeaning => ({
  lamp,
  pattern: { shape: 'shows', text },
  means,
})
/** A lamp that tells of trouble. */
export const trouble = (lamp: LampMeaning): LampMeaning => ({ ...lamp, trouble: true })
export const dark = (lamp: string, means: string): LampMeaning => ({ lamp, pattern: { shape: 'off' }, means })

export const network = (name: string, use = 'Ethernet'): Socket => ({
  name,
  use,
  looksLikeNetwork: true,
  isNetwork: true,
})
/** Takes a network plug and is none. */
export const notNetwork = (name: string, use: string): Socket => ({
  name,
  use,
  looksLikeNetwork: true,
  isNetwork: false,
})
export const plain = (name: string, use: string): Socket => ({ name, use, looksLikeNetwork: false, isNetwork: false })

/** Factory addresses of generic kinds are made up, in a private range as common practice has it; no source. */
export const fixed = (address: string): DeviceKindFacts['defaultAddress'] => ({ kind: 'fixed', address, prefix: 24 })
export const lease: DeviceKindFacts['defaultAddress'] = { kind: 'lease' }
export const noAddress: DeviceKindFacts['defaultAddress'] = { kind: 'none' }
