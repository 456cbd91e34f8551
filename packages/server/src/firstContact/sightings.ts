import type { HeardBy, Sighting } from '@calm/core/discovery'

/** Most that is kept of one listening, of one sender in it, and of one answer; what is more is counted. Common practice, no source. */
export const MOST_SIGHTINGS = { all: 5_000, ofSender: 64, ofAnswer: 32 }

/** What was heard in one listening. A stranger who says a thousand names takes neither time nor place from the others. */
export class Sightings {
  readonly #list: Sighting[] = []
  readonly #keys = new Set<string>()
  readonly #bySender = new Map<string, number>()
  /** What was heard and not kept. */
  leftOut = 0

  constructor(readonly clock: () => number) {}

  get list(): readonly Sighting[] {
    return this.#list
  }

  /** Everything that one answer says, as far as it is kept. */
  addAnswer(by: HeardBy, sender: string, what: readonly Partial<Sighting>[]): void {
    this.leftOut += Math.max(0, what.length - MOST_SIGHTINGS.ofAnswer)
    for (const each of what.slice(0, MOST_SIGHTINGS.ofAnswer)) this.add(by, sender, each)
  }

  add(by: HeardBy, sender: string, what: Partial<Sighting>): void {
    const blank = { address: '', hardwareAddress: '', says: '', serialNumber: '', orderCode: '', firmware: '' }
    const said = { ...blank, ...what, by }
    const key = JSON.stringify(said)
    // Heard again as before: nothing new.
    if (this.#keys.has(key)) return
    const count = this.#bySender.get(`${by} ${sender}`) ?? 0
    if (this.#list.length >= MOST_SIGHTINGS.all || count >= MOST_SIGHTINGS.ofSender) {
      this.leftOut += 1
      return
    }
    this.#bySender.set(`${by} ${sender}`, count + 1)
    this.#keys.add(key)
    this.#list.push({ ...said, at: this.clock() })
  }
}
