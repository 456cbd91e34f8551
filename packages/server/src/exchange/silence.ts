/** When a channel may be asked on again. */
export class Silence {
  /** Not before this moment is anything asked. */
  #until = 0
  #timer: NodeJS.Timeout | undefined
  #look: NodeJS.Immediate | undefined

  /** From now on nothing is asked for so many milliseconds, or for longer where that was to be kept before. */
  keep(milliseconds: number): void {
    this.#until = Math.max(this.#until, performance.now() + milliseconds)
  }

  /**
   * Asks after the chunk at hand is finished and the channel was read once more: what is there by then came before the
   * question and belongs to nobody. Where it must be silent first, `later` is called when that time is over.
   */
  whenOver(later: () => void, ask: () => void): void {
    if (this.#look || this.#timer) return
    const left = this.#until - performance.now()
    if (left > 0) {
      this.#timer = setTimeout(() => {
        this.#timer = undefined
        later()
      }, left)
      return
    }
    this.#look = setImmediate(() => {
      this.#look = setImmediate(() => {
        this.#look = undefined
        ask()
      })
    })
  }

  stop(): void {
    clearTimeout(this.#timer)
    clearImmediate(this.#look)
  }
}
