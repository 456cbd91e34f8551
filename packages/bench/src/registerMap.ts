import type { Answer, ModbusRequest, Table } from '@calm/core/modbus'

/** Registers that belong together as one value, so that a span may not cut into empty space. */
export interface RegisterEntry {
  readonly table: Extract<Table, 'input-registers' | 'holding-registers'>
  readonly address: number
  /** The words now, highest first. */
  readonly words: () => readonly number[]
}

interface MapFaults {
  readonly wordsSwapped: boolean
  readonly mapShifted: boolean
}

/** Answers a read from a map. A span that touches an address without a register is exception 2, as on a real device. */
export function answerFromMap(entries: readonly RegisterEntry[], request: ModbusRequest, faults: MapFaults): Answer {
  if (request.code !== 3 && request.code !== 4) return { exception: 1 }
  const table = request.code === 3 ? 'holding-registers' : 'input-registers'
  const shift = faults.mapShifted ? 1 : 0
  const found = new Map<number, number>()
  for (const entry of entries) {
    if (entry.table !== table) continue
    const words = entry.words()
    const sent = faults.wordsSwapped && words.length > 1 ? [...words].reverse() : words
    sent.forEach((word, k) => found.set(entry.address + shift + k, word))
  }
  const words: number[] = []
  for (let address: number = request.address; address < request.address + request.count; address += 1) {
    const word = found.get(address)
    if (word === undefined) return { exception: 2 }
    words.push(word)
  }
  return { words }
}
