/** Failed tries are counted over this time. */
const WINDOW_MS = 10 * 60 * 1000
/** From so many failures on each further try is answered more slowly. */
const SLOWER_AFTER = 5
/** From so many on none is looked at. */
const REFUSED_AFTER = 20
const FIRST_DELAY_MS = 100
const MOST_DELAY_MS = 1_000

type Admission =
  | { readonly kind: 'refused'; readonly seconds: number }
  | { readonly kind: 'admitted'; readonly delayMs: number; readonly succeeded: () => void }

/**
 * Keeps passcodes from being guessed: per address, and over all addresses together. A try counts as failed from the
 * moment it begins, so that many at once gain nothing; when it turns out right it is taken back.
 */
export class GuessLimit {
  /** Times of failed tries, oldest first, by address; all together under a key that no address has. */
  readonly #failed = new Map<string, number[]>()

  constructor(readonly clock: () => number) {}

  admit(address: string): Admission {
    const now = this.clock()
    const lists = [this.#recent(address, now), this.#recent(EVERYBODY, now)]
    const most = Math.max(...lists.map((list) => list.length))
    const [longest = []] = [...lists].sort((a, b) => b.length - a.length)
    if (most >= REFUSED_AFTER) {
      const free = (longest[longest.length - REFUSED_AFTER] ?? now) + WINDOW_MS
      return { kind: 'refused', seconds: Math.max(1, Math.ceil((free - now) / 1000)) }
    }
    for (const list of lists) list.push(now)
    return {
      kind: 'admitted',
      delayMs: most < SLOWER_AFTER ? 0 : Math.min(MOST_DELAY_MS, FIRST_DELAY_MS * 2 ** (most - SLOWER_AFTER)),
      succeeded: () => {
        this.#failed.delete(address)
        const all = this.#failed.get(EVERYBODY)
        const own = all?.indexOf(now) ?? -1
        if (own >= 0) all?.splice(own, 1)
      },
    }
  }

  #recent(key: string, now: number): number[] {
    const list = (this.#failed.get(key) ?? []).filter((at) => now - at < WINDOW_MS)
    this.#failed.set(key, list)
    return list
  }
}

const EVERYBODY = ''
