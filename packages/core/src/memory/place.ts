import { isPlaced, type Memory, type MemoryBlock, type Partition, type Placed } from './blocks'

/** How blocks are put into a memory. */
export interface PlacingRules {
  /** Each block begins where this divides its first cell. */
  readonly boundary: number
  /** Cells that stay free behind each block. */
  readonly room: number
}

export interface Placing {
  readonly blocks: readonly Placed[]
  /**
   * `placed`: all of them. `no-room`: they cannot fit in any way; every way was tried, or there are fewer cells than
   * they take. `not-found`: there are too many to try every way, and the way tried did not do.
   */
  readonly verdict: 'placed' | 'no-room' | 'not-found'
  readonly missing: readonly string[]
}

/** So many free blocks are tried in every order. */
const TRY_EVERY = 8

/** Places what has no place yet; what has one stays. What devices fill goes into the read part, what is sent into the write part. */
export function placeBlocks(memory: Memory, rules: PlacingRules): Placing {
  const fixed = memory.blocks.filter(isPlaced)
  const parts = [
    placeIn(
      memory.read,
      memory.blocks.filter((each) => !isPlaced(each) && each.use !== 'send'),
      // What is sent takes no cell away: sent from cells that an answer fills it is a link, and meant so.
      fixed.filter(({ use }) => use !== 'send'),
      rules,
    ),
    placeIn(
      memory.write,
      memory.blocks.filter((each) => !isPlaced(each) && each.use === 'send'),
      fixed,
      rules,
    ),
  ]
  const missing = parts.flatMap((part) => part.missing)
  const verdict = parts.some((part) => part.verdict === 'not-found')
    ? 'not-found'
    : missing.length > 0
      ? 'no-room'
      : 'placed'
  return { blocks: [...fixed, ...parts.flatMap(({ blocks }) => blocks)], verdict, missing }
}

interface Gap {
  readonly first: number
  readonly end: number
}

const up = (cell: number, boundary: number) => Math.ceil(cell / boundary) * boundary

/** Free stretches of a partition between what is placed already, with the room that each of those keeps behind it. */
function gapsOf({ first, count }: Partition, fixed: readonly Placed[], room: number): readonly Gap[] {
  const gaps: Gap[] = []
  let at = first
  for (const block of [...fixed].sort((a, b) => a.first - b.first)) {
    if (block.first > at) gaps.push({ first: at, end: Math.min(block.first, first + count) })
    at = Math.max(at, block.first + block.count + room)
  }
  if (at < first + count) gaps.push({ first: at, end: first + count })
  return gaps.filter((gap) => gap.end > gap.first)
}

function placeIn(
  partition: Partition,
  open: readonly MemoryBlock[],
  fixed: readonly Placed[],
  rules: PlacingRules,
): Placing {
  const gaps = gapsOf(partition, fixed, rules.room)
  const bySize = [...open].sort((a, b) => b.count - a.count)
  const first = inOrder(bySize, gaps, rules)
  if (first) return { blocks: first, verdict: 'placed', missing: [] }
  const all = open.length <= TRY_EVERY ? everyOrder(bySize, gaps, rules) : undefined
  if (all) return { blocks: all, verdict: 'placed', missing: [] }
  const cells = gaps.reduce((sum, gap) => sum + gap.end - gap.first, 0)
  const isProven = open.length <= TRY_EVERY || open.reduce((sum, { count }) => sum + count, 0) > cells
  return { blocks: [], verdict: isProven ? 'no-room' : 'not-found', missing: open.map(({ name }) => name) }
}

/** Each into the gap that it fills best. */
function inOrder(
  open: readonly MemoryBlock[],
  gaps: readonly Gap[],
  rules: PlacingRules,
): readonly Placed[] | undefined {
  let free = gaps
  const placed: Placed[] = []
  for (const block of open) {
    const fitting = free
      .filter((gap) => up(gap.first, rules.boundary) + block.count <= gap.end)
      .sort((a, b) => a.end - a.first - (b.end - b.first) || a.first - b.first)[0]
    if (!fitting) return undefined
    const first = up(fitting.first, rules.boundary)
    placed.push({ ...block, first })
    free = shrunk(free, fitting, first + block.count + rules.room)
  }
  return placed
}

const shrunk = (gaps: readonly Gap[], gap: Gap, to: number): readonly Gap[] =>
  gaps.flatMap((each) => (each !== gap ? [each] : to < each.end ? [{ first: to, end: each.end }] : []))

/**
 * Every block into every gap, in every order. Blocks begin as early in their gap as they can: moving one to the left
 * never takes room from those behind it, so that whatever fits at all fits in one of these ways.
 */
function everyOrder(
  open: readonly MemoryBlock[],
  gaps: readonly Gap[],
  rules: PlacingRules,
): readonly Placed[] | undefined {
  if (open.length === 0) return []
  for (const block of open) {
    const rest = open.filter((each) => each !== block)
    for (const gap of gaps) {
      const first = up(gap.first, rules.boundary)
      if (first + block.count > gap.end) continue
      const others = everyOrder(rest, shrunk(gaps, gap, first + block.count + rules.room), rules)
      if (others) return [{ ...block, first }, ...others]
    }
  }
  return undefined
}
