import { randomInt } from 'node:crypto'
import { limits } from '@calm/core/modbus'

/** How many numbers are not used again: longer than any answer can be late. */
const REMEMBERED = 256

/**
 * Transaction numbers that nobody can foresee, none twice within the last 256. A device that sends one packet too
 * many, or counts on by itself, so never happens on the number of the next request.
 */
export class TransactionNumbers {
  readonly #recent = new Set<number>()

  constructor(readonly random: (end: number) => number = randomInt) {}

  next(): number {
    let number = this.random(limits.word + 1)
    while (this.#recent.has(number)) number = (number + 1) % (limits.word + 1)
    this.#recent.add(number)
    if (this.#recent.size > REMEMBERED) this.#recent.delete(this.#recent.values().next().value ?? number)
    return number
  }
}
