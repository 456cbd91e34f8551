/** What stands for a sign that nobody should read later. */
const MASK = '•'
const ASKS_FOR_SECRET = /(pass\s?word|pass\s?code|pass\s?phrase|\bpin)\b[^\r\n]*[:>?]$/i
const MOST_SIGNS = 200_000

/**
 * The text of a console session, as it may be kept: after a prompt that asks for a password nothing that is typed or
 * echoed until the next line is readable.
 */
export class Transcript {
  #text = ''
  #lastLine = ''
  #secret = false

  /** What came from the device. */
  received(text: string): void {
    for (const sign of text) {
      if (this.#secret) {
        // The space after the prompt is the prompt’s own.
        const own = sign === ' ' && ASKS_FOR_SECRET.test(this.#lastLine)
        if (sign === '\n' || sign === '\r' || own) this.#add(sign)
        else this.#add(MASK)
      } else {
        this.#add(sign)
      }
      if (!this.#secret && ASKS_FOR_SECRET.test(this.#lastLine)) this.#secret = true
    }
  }

  /** What was typed. A device that echoes repeats it; what is not echoed stands here only as its length. */
  typed(text: string): void {
    for (const sign of text) {
      if (!this.#secret) continue
      if (sign === '\r' || sign === '\n') {
        this.#secret = false
        this.#lastLine = ''
      } else this.#add(MASK)
    }
  }

  get text(): string {
    return this.#text
  }

  #add(sign: string): void {
    if (this.#text.length < MOST_SIGNS) this.#text += sign
    this.#lastLine = sign === '\n' || sign === '\r' ? '' : (this.#lastLine + sign).slice(-200)
  }
}
