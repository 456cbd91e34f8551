/** How a value that was seen stands to the device: found there, typed into it, or at work in it. */
export type TermStanding = 'found' | 'entered' | 'in-force'

export const standingWords: Readonly<Record<TermStanding, string>> = {
  found: 'as found',
  entered: 'entered',
  'in-force': 'in force',
}
