import { blankPath, type MemoryPlan } from '../job'
import { sampleHandshake, samplePoint } from '../job/fixtures'
import { placeBlocks } from '../memory'
import type { PackedRequest } from '../packing'
import { memoryOf, writesOf } from '.'
import type { PlaceOrMissing } from './place'

const requests: readonly PackedRequest[] = [
  { table: 'holding-registers', first: 0, count: 10, pollMs: 1000, carries: [] },
  { table: 'coils', first: 0, count: 17, pollMs: 1000, carries: [] },
]
const said: MemoryPlan = { ...blankPath.memory, readFirst: 100, readCount: 50, writeFirst: 400, writeCount: 20 }
const valve = samplePoint({ id: 'valve', quantity: 'Valve', access: 'write', sentFrom: null })
const blocksOf = (plan: MemoryPlan, writes: Parameters<typeof memoryOf>[2]) => {
  const laid = memoryOf(plan, requests, writes)
  return 'missing' in laid
    ? laid.missing
    : laid.memory.blocks.map(({ name, use, first, count }) => `${name} ${use} ${first ?? '?'}+${count}`)
}

test('what nobody said is named before anything is placed; what is written matters only where something is sent', () => {
  expect(blocksOf(blankPath.memory, [])).toEqual(['readFirst', 'readCount'])
  expect(blocksOf(blankPath.memory, [{ point: valve, words: 1 }])).toEqual([
    'readFirst',
    'readCount',
    'writeFirst',
    'writeCount',
  ])
  expect(blocksOf({ ...said, writeFirst: null, writeCount: null }, [])).toEqual([
    'Command 1 fill ?+10',
    'Command 2 fill ?+2',
  ])
})

test('status words are behind each answer, the error block where it was said, and a point from its word', () => {
  expect(blocksOf({ ...said, states: 2, errors: 140 }, [{ point: { ...valve, sentFrom: 405 }, words: 2 }])).toEqual([
    'The error block status 140+8',
    'Command 1 fill ?+12',
    'Command 2 fill ?+4',
    'Valve, sent send 405+2',
  ])
})

test('boundary and room are kept when it is placed', () => {
  const laid = memoryOf({ ...said, boundary: 8, room: 3 }, requests, [{ point: valve, words: 1 }])
  if ('missing' in laid) throw new Error('everything was said')
  const { blocks } = placeBlocks(laid.memory, laid.rules)
  const firsts = blocks.filter(({ use }) => use === 'fill').map(({ first }) => first)
  expect(firsts.every((first) => first % 8 === 0 && first >= 100)).toBe(true)
  expect(Math.abs((firsts[0] ?? 0) - (firsts[1] ?? 0))).toBeGreaterThanOrEqual(10 + 3)
})

test('only what goes to the device is sent; bits take words of sixteen', () => {
  const places = [
    { table: 'coils', address: 0, size: 17 },
    { table: 'holding-registers', address: 0, size: 2 },
    { missing: 'no place' },
  ] as unknown as readonly PlaceOrMissing[]
  const handshake = sampleHandshake('PLC', 'V', {
    points: [valve, samplePoint({ access: 'read' }), { ...valve, id: 'other' }],
  })
  expect(writesOf(handshake, places)).toEqual([{ point: valve, words: 2 }])
})
