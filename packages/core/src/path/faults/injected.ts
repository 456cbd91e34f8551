import { dice, wordsOf, type CaseOrder } from '../../explain/fixtures'
import type { FaultKind, OtherWords, PathHop, PathSeen } from '.'

// A path played through with faults put in by hand, for the tests and the figures. It moves words and numbers about with
// arrays and nothing of the finder's; values are invented.

/** One fault, put in at a hop. */
export interface Injected {
  readonly hop: 'memory' | 'image' | 'tag' | 'screen'
  readonly kind: FaultKind
}

/** Every single fault, where it can happen. */
export const singles: readonly Injected[] = [
  ...(['memory', 'image'] as const).flatMap((hop) =>
    (['shift', 'order', 'other', 'truncated', 'overwritten', 'stale', 'zero', 'cleared'] as const).map((kind) => ({
      hop,
      kind,
    })),
  ),
  ...(['type', 'order', 'scale', 'stale', 'forced', 'zero'] as const).map((kind) => ({ hop: 'tag' as const, kind })),
  ...(['scale', 'stale', 'forced'] as const).map((kind) => ({ hop: 'screen' as const, kind })),
]

const LOOKS = 5
type Words = readonly number[]
const swapWords = (words: Words): Words => [...words].reverse()
const float = (value: number, order: CaseOrder) => wordsOf(value, 'float32', order) ?? []
const asFloat = (words: Words): number => {
  const view = new DataView(new ArrayBuffer(4))
  view.setUint16(0, words[0] ?? 0)
  view.setUint16(2, words[1] ?? 0)
  return view.getFloat32(0)
}

/** Plays a path of five hops; each copies two words that make a float, high word first. */
export function playPath(seed: number, faults: readonly Injected[]): PathSeen {
  const roll = dice(seed)
  const has = (hop: Injected['hop'], kind: FaultKind) => faults.some((each) => each.hop === hop && each.kind === kind)
  const values = Array.from({ length: LOOKS }, () => roll.between(20, 90))
  const otherUnit = Array.from({ length: LOOKS }, () => float(roll.between(110, 400), 'ABCD'))
  const block = Array.from({ length: LOOKS }, () => [1 + roll.below(65_000), 1 + roll.below(65_000)])
  const around = () => Array.from({ length: 8 }, () => 1 + roll.below(65_000))
  const device = values.map((value) => {
    const words = around()
    words.splice(3, 2, ...float(value, 'ABCD'))
    return words
  })
  const lost = 2
  const copy = (hop: 'memory' | 'image', before: readonly Words[], at: number): readonly Words[] => {
    const shift = has(hop, 'shift') ? roll.pick([-2, -1, 1, 2]) : 0
    return before.map((words, look) => {
      const from = has(hop, 'stale') ? (before[0] ?? words) : words
      let two: Words = from.slice(at + shift, at + shift + 2)
      if (has(hop, 'other')) two = otherUnit[look] ?? two
      if (has(hop, 'order')) two = swapWords(two)
      if (has(hop, 'truncated')) two = [two[0] ?? 0, 0]
      if (has(hop, 'overwritten')) two = [two[0] ?? 0, block[look]?.[1] ?? 0]
      if (has(hop, 'zero') || (has(hop, 'cleared') && look >= lost)) two = [0, 0]
      const all = around()
      all.splice(2, 2, ...two)
      return all
    })
  }
  const memory = copy('memory', device, 3)
  const image = copy('image', memory, 2)
  const held = roll.between(500, 900)
  const meant = image.map((words) => {
    const two = words.slice(2, 4)
    if (has('tag', 'type')) return ((two[0] ?? 0) << 16) >>> 0 ? (two[0] ?? 0) * 65_536 + (two[1] ?? 0) : 0
    return asFloat(has('tag', 'order') ? swapWords(two) : two)
  })
  const tag = meant.map((value) =>
    has('tag', 'forced')
      ? held
      : has('tag', 'zero')
        ? 0
        : has('tag', 'stale')
          ? (meant[0] ?? 0)
          : has('tag', 'scale')
            ? value / 10
            : value,
  )
  const shown = tag.map((value) =>
    has('screen', 'forced')
      ? held
      : has('screen', 'stale')
        ? (tag[0] ?? 0)
        : has('screen', 'scale')
          ? value * 60
          : value,
  )
  const numbers = (samples: readonly number[]) => samples.map((value) => (Number.isFinite(value) ? value : undefined))
  const others: readonly OtherWords[] = [
    { name: 'unit 2', samples: otherUnit },
    { name: 'the error block', samples: block },
  ]
  const hops: readonly PathHop[] = [
    { kind: 'words', name: 'device', first: 100, at: 103, samples: device },
    { kind: 'words', name: 'memory', first: 40, at: 42, samples: memory },
    { kind: 'words', name: 'image', first: 0, at: 2, samples: image },
    { kind: 'value', name: 'tag', samples: numbers(tag), allowed: 0 },
    { kind: 'value', name: 'screen', samples: numbers(shown), allowed: 0.005 },
  ]
  return { hops, format: { type: 'float32', order: 'ABCD' }, registers: 2, scale: 1, offset: 0, unit: 'l/min', others }
}
