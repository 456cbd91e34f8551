import { checkMemory, placeBlocks, type Memory, type MemoryBlock } from '.'
import { dice } from '../explain/fixtures'

const block = (name: string, use: MemoryBlock['use'], count: number, first?: number): MemoryBlock => ({
  id: name,
  name,
  use,
  count,
  first,
})
const memory = (blocks: readonly MemoryBlock[], read = 100, write = 100): Memory => ({
  read: { first: 0, count: read },
  write: { first: 1000, count: write },
  blocks,
})
const kinds = (blocks: readonly MemoryBlock[]) =>
  checkMemory(memory(blocks)).map(({ kind, cells }) => `${kind} ${cells.first}+${cells.count}`)

test('two fillers of one cell clash; a sender of what another fills is a link', () => {
  expect(kinds([block('a', 'fill', 10, 0), block('b', 'fill', 10, 9)])).toEqual(['clash 9+1'])
  expect(kinds([block('a', 'fill', 10, 0), block('b', 'fill', 10, 10)])).toEqual([])
  const link = checkMemory(memory([block('a', 'fill', 10, 0), block('b', 'send', 4, 2)]))
  expect(link.map(({ kind, severity }) => [kind, severity])).toEqual([['link', 'warn']])
  expect(link[0]?.say).toMatch(/before its first good answer .* goes on sending the last value/)
})

test('what is sent and never filled, cell by cell; what the controller writes counts', () => {
  expect(kinds([block('a', 'fill', 4, 0), block('b', 'send', 8, 2)])).toEqual(['link 2+2', 'never-filled 4+6'])
  expect(kinds([block('b', 'send', 8, 1000)])).toEqual([])
  expect(kinds([block('b', 'send', 8, 1096)])).toEqual(['never-filled 1100+4'])
})

test('what lies outside the part that the controller reads; an error block there is never seen', () => {
  expect(kinds([block('a', 'fill', 10, 95)])).toEqual(['outside 95+10'])
  const [status] = checkMemory(memory([block('errors', 'status', 8, 200)]))
  expect([status?.kind, status?.say]).toEqual([
    'status-outside',
    'errors takes cells 200 to 207; the controller reads cells 0 to 99, so it never sees these errors.',
  ])
})

test('what is fixed stays, boundaries and room are kept', () => {
  const { blocks, verdict } = placeBlocks(
    memory([block('fixed', 'fill', 10, 20), block('a', 'fill', 18), block('b', 'fill', 30), block('c', 'send', 5)]),
    { boundary: 10, room: 2 },
  )
  expect(verdict).toBe('placed')
  expect(Object.fromEntries(blocks.map(({ name, first }) => [name, first]))).toEqual({
    fixed: 20,
    a: 0,
    b: 40,
    c: 1000,
  })
})

/** Whether blocks can be put anywhere at all, cell by cell, with no thought of gaps or order. */
function fitsSomehow(
  open: readonly MemoryBlock[],
  taken: ReadonlySet<number>,
  size: number,
  boundary: number,
  room: number,
): boolean {
  const [block, ...rest] = open
  if (!block) return true
  for (let first = 0; first + block.count <= size; first += boundary) {
    const own = Array.from({ length: block.count + room }, (_, k) => first + k)
    if (own.slice(0, block.count).some((cell) => taken.has(cell))) continue
    // What stands behind must keep clear of the room as well, except past the end.
    if (own.slice(block.count).some((cell) => taken.has(cell) && cell < size)) continue
    if (fitsSomehow(rest, new Set([...taken, ...own]), size, boundary, room)) return true
  }
  return false
}

test('"no room" is said only where nothing fits, tried cell by cell; what is placed never overlaps', () => {
  const seen = { placed: 0, 'no-room': 0, 'not-found': 0 }
  for (let seed = 1; seed <= 150; seed += 1) {
    const roll = dice(seed)
    const boundary = roll.pick([1, 2, 4])
    const room = 0
    const open = Array.from({ length: 4 }, (_, k) => block(`b${k}`, 'fill', 1 + roll.below(7)))
    const fixed = block('fixed', 'fill', 3, roll.below(18))
    const { verdict, blocks } = placeBlocks(memory([fixed, ...open], 24), { boundary, room })
    const taken = new Set(Array.from({ length: 3 }, (_, k) => (fixed.first ?? 0) + k))
    expect([seed, verdict]).toEqual([seed, fitsSomehow(open, taken, 24, boundary, room) ? 'placed' : 'no-room'])
    seen[verdict] += 1
    if (verdict !== 'placed') continue
    expect(checkMemory(memory(blocks, 24))).toEqual([])
    for (const { name, first } of blocks) if (name !== 'fixed') expect(first % boundary).toBe(0)
  }
  expect(seen.placed).toBeGreaterThan(20)
  expect(seen['no-room']).toBeGreaterThan(10)
})

test('many blocks: placed where the best fit does it, else not claimed to be impossible', () => {
  const many = Array.from({ length: 20 }, (_, k) => block(`b${k}`, 'fill', 5))
  expect(placeBlocks(memory(many), { boundary: 1, room: 0 }).verdict).toBe('placed')
  expect(placeBlocks(memory(many), { boundary: 4, room: 0 })).toMatchObject({ verdict: 'not-found' })
  expect(placeBlocks(memory([...many, block('x', 'fill', 1)]), { boundary: 1, room: 0 }).verdict).toBe('no-room')
})

test('what is sent takes no cell from what is filled: placed there it becomes a link', () => {
  const memory: Memory = {
    read: { first: 0, count: 4 },
    write: { first: 10, count: 4 },
    blocks: [
      { id: 'f', name: 'Command 1', use: 'fill', first: undefined, count: 4 },
      { id: 's', name: 'Sent', use: 'send', first: 2, count: 2 },
    ],
  }
  const placing = placeBlocks(memory, { boundary: 1, room: 0 })
  expect(placing.verdict).toBe('placed')
  expect(placing.blocks.find(({ id }) => id === 'f')?.first).toBe(0)
  expect(checkMemory({ ...memory, blocks: placing.blocks }).map(({ kind }) => kind)).toEqual(['link'])
})
