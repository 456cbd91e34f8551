/** How often the time is counted. A stretch in which this program did something else counts as one such slice. */
const SLICE_MS = 25

/**
 * Calls back when a time has passed in which this program was awake. While it is busy with a large write or a long
 * computation it hears nobody, so that time is not the device's; and before the end it takes a last look at its
 * sockets. A healthy device is never called silent for what the program did itself.
 */
export class AwakeTimer {
  #left: number
  #before = performance.now()
  #timer: NodeJS.Timeout | undefined
  #look: NodeJS.Immediate | undefined

  constructor(
    milliseconds: number,
    readonly ranOut: () => void,
  ) {
    this.#left = milliseconds
    this.#slice()
  }

  stop(): void {
    clearTimeout(this.#timer)
    clearImmediate(this.#look)
  }

  #slice(): void {
    const length = Math.min(SLICE_MS, this.#left)
    this.#before = performance.now()
    this.#timer = setTimeout(() => {
      const passed = performance.now() - this.#before
      this.#left -= Math.min(passed, length)
      if (this.#left > 0.5) return this.#slice()
      this.#lastLook()
    }, length)
  }

  /** Between a timer and an immediate Node.js reads its sockets: what has arrived is heard first. */
  #lastLook(): void {
    this.#look = setImmediate(() => {
      this.#look = setImmediate(this.ranOut)
    })
  }
}
