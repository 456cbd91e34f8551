const MOST_SIGNS = 20_000

/** What came from a console since something was sent last, line by line. Control sequences are taken out before. */
export class Screen {
  #text = ''

  received(text: string): void {
    this.#text = (this.#text + text).slice(-MOST_SIGNS)
  }

  /** From here on: an answer was sent, and what stood there before waits for nothing any more. */
  clear(): void {
    this.#text = ''
  }

  /** The line that waits: the last one, when no line end came after it. */
  get waiting(): string {
    return this.lines.at(-1) ?? ''
  }

  /** All lines, blanks around them taken off; the last one is the one that waits. */
  get lines(): readonly string[] {
    return this.#text.split(/\r\n|\n\r|\r|\n/).map((line) => line.trim())
  }
}
