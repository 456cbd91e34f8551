/**
 * Shortcuts of the search. Each leaves ways out, or takes one at once, because no plan can be cheaper by them; each is
 * held, with and without it, against the search of everything.
 */
export const cuts = {
  verify: 'Who can be found again at its target is, at once: it costs nothing.',
  set: 'A device whose target nobody else is concerned by is set to it as soon as that can be done.',
  on: 'A group at whose addresses nobody else is concerned is put on at once.',
  cycle: 'A group all of whose members wait for power only is taken off and put on at once.',
  lead: 'The lead of a device at a target that nobody else is concerned by is put in at once.',
  troubled: 'Parking, the straight cable and taking off are for devices that may be in somebody’s way.',
  leads: 'Only a lead whose device stands where another is, will be or comes up is pulled.',
  spare: 'Of spare hosts that nobody holds the first stands for all.',
  likes: 'Of devices that are alike one stands for all.',
  visit: 'A visit that finishes all business of a subnet is made at once.',
  wait: 'The laptop does not move before something can be done where it goes.',
} as const

export type Cut = keyof typeof cuts
export const allCuts: ReadonlySet<Cut> = new Set(Object.keys(cuts) as Cut[])

/** Shortcuts that hold only while others are taken: what can be done at once has been done before they are looked at. */
export const cutsBuiltOn: Partial<Record<Cut, readonly Cut[]>> = {
  visit: ['verify', 'set', 'on', 'cycle'],
  wait: ['verify', 'set', 'on'],
}
