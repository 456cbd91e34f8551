import { ok, refusal, type Result } from '../units'
import type { Channel, Module } from './modules'

const EXPECTED = 'a name and its values, for example "AI 2: 2 x 16 in, 2 x 16 out"'
/** More than this no image has. */
const MOST_BITS = 16_384

/**
 * Modules in slot order, one line each: a name, a colon, and how many values of how many bits go in and out. A line
 * with a name alone is a module whose size is not known. Nothing behind a mistake is guessed: its line is named.
 *
 * @example readModules('DI 8: 8 x 1 in') // eight inputs of one bit
 */
export function readModules(text: string): Result<readonly Module[]> {
  const modules: Module[] = []
  const lines = text.split(/\r?\n/)
  for (const [at, raw] of lines.entries()) {
    const line = raw.trim()
    if (line === '') continue
    const [name = '', rest] = line.split(/:(.*)/s)
    if (rest === undefined || rest.trim() === '' || rest.trim() === '?') {
      modules.push({ name: name.trim(), inputs: undefined, outputs: undefined })
      continue
    }
    const sides: { in: Channel[]; out: Channel[] } = { in: [], out: [] }
    for (const part of rest.split(',')) {
      const [, count = '', bits = '', side = ''] = /^\s*(\d+)\s*(?:x|×|\*)\s*(\d+)\s*(in|out)\s*$/i.exec(part) ?? []
      if (count === '')
        return refusal('module.part', `Line ${at + 1}: "${part.trim()}" says no values.`, part.trim(), EXPECTED)
      const [number, size] = [Number(count), Number(bits)]
      if (size < 1 || size > 64 || number < 1 || number * size > MOST_BITS)
        return refusal(
          'module.size',
          `Line ${at + 1}: ${number} x ${size} bits cannot be.`,
          part.trim(),
          '1 to 64 bits each',
        )
      const own = sides[side.toLowerCase() as 'in' | 'out']
      for (let k = 0; k < number; k += 1)
        own.push({ name: `${size === 1 ? 'bit' : 'channel'} ${own.length + 1}`, bits: size })
    }
    modules.push({ name: name.trim(), inputs: sides.in, outputs: sides.out })
  }
  if (modules.length === 0) return refusal('module.none', 'No module is written down yet.', 'nothing', EXPECTED)
  return ok(modules)
}
