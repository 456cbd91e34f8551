import type { RungState } from '@calm/core/ladder'

/** Colour states. Each state has one mark; its form is told apart without the colour too. */
export const stateText: Readonly<Record<RungState, string>> = {
  'not-started': 'text-ink-faint',
  'in-hand': 'text-ink',
  waiting: 'text-ink',
  proven: 'text-proven',
  'at-odds': 'text-odds-mark',
  parked: 'text-ink-faint',
  'not-apply': 'text-ink-faint',
}

/** The same for what is filled: the rungs of a ladder and the marks of a bar. */
export const rungFill: Readonly<Record<RungState, string>> = {
  'not-started': 'fill-ink-faint',
  'in-hand': 'fill-ink',
  waiting: 'fill-ink',
  proven: 'fill-proven',
  'at-odds': 'fill-odds-mark',
  parked: 'fill-ink-faint',
  'not-apply': 'fill-ink-faint',
}
