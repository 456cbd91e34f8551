import { parseIpv4 } from '../address'
import type { MenuFacts, MenuReading, MenuValue } from './menu'

/** A value that a console showed by itself. */
export interface ReadValue {
  readonly is: MenuValue
  readonly text: string
}

const isAddress = (is: MenuValue) => is === 'address' || is === 'mask' || is === 'gateway'
const MOST_SIGNS = 60

function valueAfter(line: string, { label, is }: MenuReading): ReadValue | undefined {
  const at = line.toLowerCase().indexOf(label.trim().toLowerCase())
  // Only as a word of its own: "mask" is no part of "unmasked".
  if (at < 0 || (at > 0 && /\w/.test(line[at - 1] ?? ''))) return undefined
  const rest = line.slice(at + label.trim().length)
  if (rest !== '' && !/^[\s:=.]/.test(rest)) return undefined
  const text = rest
    .replace(/^[\s:=.]+/, '')
    .slice(0, MOST_SIGNS)
    .trim()
  // A dash stands for nothing.
  if (!isAddress(is)) return /^-*$/.test(text) ? undefined : { is, text }
  const [first = ''] = text.split(/[\s,;/]/)
  return parseIpv4(first).ok ? { is, text: first } : undefined
}

/**
 * What lines of a console tell, by the description of its menu. A line on which somebody typed says what was typed, and
 * nothing of the device: it is left out by whoever asks.
 */
export function readingsIn(menu: MenuFacts, lines: readonly string[]): readonly ReadValue[] {
  return lines.flatMap((line) => menu.reads.flatMap((reading) => valueAfter(line, reading) ?? []))
}

/** Takes apart what comes from a console into whole lines that the device wrote by itself. */
export class OwnLines {
  #line = ''
  #typed = false

  /** The line that waits, as it stands on the screen. */
  get waiting(): string {
    return this.#line
  }

  /** Somebody, or the program, typed on the line that waits. */
  typed(): void {
    this.#typed = true
  }

  /** @returns the lines that are whole now and on which nobody typed */
  received(text: string): readonly string[] {
    const own: string[] = []
    for (const sign of text) {
      if (sign !== '\r' && sign !== '\n') {
        if (this.#line.length < 400) this.#line += sign
        continue
      }
      if (!this.#typed && this.#line.trim() !== '') own.push(this.#line.trim())
      if (this.#line !== '' || sign === '\n') this.#typed = false
      this.#line = ''
    }
    return own
  }
}
