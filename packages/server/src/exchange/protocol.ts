import type { ModbusResponse, Rejection } from '@calm/core/modbus'

/** What came out of the bytes of a channel. After `broken` nothing of them can be trusted any more. */
export type Chunk = { readonly frame: Uint8Array } | { readonly broken: Rejection; readonly bytes: string }

/** Cuts what arrives into frames. */
export interface Framer {
  /** Bytes of a frame that is not whole yet. */
  readonly pendingCount: number
  push(bytes: Uint8Array): readonly Chunk[]
  /** The line was silent: whatever is there is a frame, or the rest of one. Left out where silence means nothing. */
  silence?(): readonly Chunk[]
}

/** What a frame is to the question that was asked. */
export type Verdict =
  | { readonly kind: 'answer'; readonly response: ModbusResponse }
  /** Late, or meant for somebody else: the right answer may still come. */
  | { readonly kind: 'foreign'; readonly rejection: Rejection }
  | { readonly kind: 'rejected'; readonly rejection: Rejection }

/** One question on its way: its bytes, and how a frame is judged as its answer. */
export interface Question {
  readonly bytes: Uint8Array
  judge(frame: Uint8Array): Verdict
}

/**
 * What is asked over a channel, and how what comes back is judged. It knows nothing of the channel.
 * @typeParam A what is asked: a unit and a request
 */
export interface Protocol<A> {
  /** A framer for a channel that was just opened. */
  framer(): Framer
  question(ask: A): Question
  /** Milliseconds of silence that end a frame; left out where frames say their length. */
  readonly gapMs?: number
  /** Milliseconds in which the line must be silent before a question: nothing of before may run into its answer. */
  readonly quietMs: number
  /**
   * Whether a late answer looks like the right one. Then, after a question that nobody answered, the line is listened to
   * for as long again before the next: what comes late is heard and dropped.
   */
  readonly lateLooksRight: boolean
  /**
   * A question whose answer cannot be taken for that of another one: asked between, it tells whether answers and
   * questions are in step. Left out where an answer says itself what it belongs to.
   */
  marker?(ask: A): A
  /** After bytes that make no frame: a new channel, or the same one again once it is silent. */
  readonly afterBroken: 'reopen' | 'go-on'
}
