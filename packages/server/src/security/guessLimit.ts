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

/** Tries that are kept of one address. */
const MOST_KEPT = 200

/** However many others fail, an address has so many tries: nobody locks everybody out. */
const OWN_SHARE = 3

/** This laptop itself, however it is written. Whoever sits at it is only slowed down. @source RFC 1122 3.2.1.3 (g); RFC 4291 2.5.3 */
const isLoopback = (address: string): boolean => /^(::ffff:)?127\.|^::1$/.test(address)

/**
 * Keeps passcodes from being guessed: per address, and over all addresses together, of which each keeps a small share.
 * A try counts as failed from the moment it begins, so that many at once gain nothing; when it turns out right it is
 * taken back.
 */
export class GuessLimit {
  /** Times of failed tries, oldest first, by address; all together under a key that no address has. */
  readonly #failed = new Map<string, number[]>()

  constructor(readonly clock: () => number) {}

  admit(address: string): Admission {
    const now = this.clock()
    const [own, all] = [this.#recent(address, now), this.#recent(EVERYBODY, now)]
    const most = Math.max(own.length, all.length)
    const isFull = own.length >= REFUSED_AFTER || (all.length >= REFUSED_AFTER && own.length >= OWN_SHARE)
    if (isFull && !isLoopback(address)) {
      const longest = own.length > all.length ? own : all
      const free = (longest[longest.length - REFUSED_AFTER] ?? now) + WINDOW_MS
      return { kind: 'refused', seconds: Math.max(1, Math.ceil((free - now) / 1000)) }
    }
    for (const list of [own, all]) {
      list.push(now)
      // No more is needed to judge by, and nobody fills the memory.
      if (list.length > MOST_KEPT) list.shift()
    }
    return {
      kind: 'admitted',
      delayMs: most < SLOWER_AFTER ? 0 : Math.min(MOST_DELAY_MS, FIRST_DELAY_MS * 2 ** (most - SLOWER_AFTER)),
      succeeded: () => {
        this.#failed.delete(address)
        // One good passcode takes back its own try, and clears nobody else's failures.
        const everybody = this.#failed.get(EVERYBODY)
        const place = everybody?.indexOf(now) ?? -1
        if (place >= 0) everybody?.splice(place, 1)
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
