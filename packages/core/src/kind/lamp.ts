/** How a lamp or display looks. Never "steady is good": what it means stands beside it in the kind. */
export type LampPattern =
  | { readonly shape: 'off' }
  | { readonly shape: 'steady'; readonly colour: string }
  | { readonly shape: 'flashing'; readonly colour: string; readonly hertz: number }
  | { readonly shape: 'in-turn'; readonly colours: readonly string[]; readonly hertz: number }
  | { readonly shape: 'together'; readonly colours: readonly string[]; readonly hertz: number }
  | { readonly shape: 'either'; readonly of: readonly LampPattern[] }
  | { readonly shape: 'shows'; readonly text: string }

/** The pattern in words. @example lampWords({ shape: 'flashing', colour: 'green', hertz: 1 }) // 'flashes green once a second' */
export function lampWords(pattern: LampPattern): string {
  switch (pattern.shape) {
    case 'off':
      return 'is dark'
    case 'steady':
      return `is ${pattern.colour} without flashing`
    case 'flashing':
      return `flashes ${pattern.colour} ${rateWords(pattern.hertz)}`
    case 'in-turn':
      return `shows ${pattern.colours.join(' and ')} in turn, ${rateWords(pattern.hertz)}`
    case 'together':
      return `flashes ${pattern.colours.join(' and ')} together, ${rateWords(pattern.hertz)}`
    case 'either':
      return pattern.of.map(lampWords).join(', or ')
    case 'shows':
      return `shows "${pattern.text}"`
  }
}

function rateWords(hertz: number): string {
  if (hertz === 1) return 'once a second'
  if (hertz === 2) return 'twice a second'
  return hertz > 1 ? `${hertz} times a second` : `every ${Math.round(10 / hertz) / 10} seconds`
}
