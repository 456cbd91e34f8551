import { limits } from './limits'
import { hexText } from './bytes'
import { reject, type Rejection } from './rejection'
import { rtuResponseLength } from './rtu'

/** What came out of a serial line. */
export type RtuChunk = { readonly frame: Uint8Array } | { readonly broken: Rejection; readonly bytes: string }

/**
 * Cuts the bytes of a serial line into answers. The first bytes of most tell how long they will be; the others end
 * with a silence, which whoever listens has to tell.
 */
export class RtuFramer {
  #rest = new Uint8Array(0)

  /** Bytes of a frame that is not whole yet. */
  get pendingCount(): number {
    return this.#rest.length
  }

  push(bytes: Uint8Array): readonly RtuChunk[] {
    const all = new Uint8Array(this.#rest.length + bytes.length)
    all.set(this.#rest)
    all.set(bytes, this.#rest.length)
    const length = rtuResponseLength(all)
    if (length !== undefined && all.length >= length) {
      // What follows an answer without a silence belongs to no question of ours; it is told with the next silence.
      this.#rest = all.slice(length)
      return [{ frame: all.slice(0, length) }]
    }
    if (all.length > limits.rtuBytes) {
      this.#rest = new Uint8Array(0)
      const found = `${all.length} bytes`
      const refusal = reject('too-long', 'The line does not fall silent.', found, `at most ${limits.rtuBytes}`).refusal
      return [{ broken: refusal, bytes: hexText(all.slice(0, 32)) }]
    }
    this.#rest = all
    return []
  }

  /** The line was silent for 3.5 characters: what is there is a whole frame, or the rest of one. */
  silence(): readonly RtuChunk[] {
    const frame = this.#rest
    this.#rest = new Uint8Array(0)
    return frame.length === 0 ? [] : [{ frame }]
  }
}
