import { blankPath, type MemoryPlan } from '../job'
import { sampleDevice, sampleHandshake, sampleJob, samplePoint, sampleTerms } from '../job/fixtures'
import { placeBlocks } from '../memory'
import type { PackedRequest } from '../packing'
import { memoryOf, packingOf, tableFiles, writesOf } from '.'
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

describe('the table of what lies between', () => {
  const at = (id: string, register: string, more: Parameters<typeof samplePoint>[0] = {}) =>
    samplePoint({ id, quantity: id, tag: id, source: { register, type: 'uint16', order: 'ABCD', scale: 1 }, ...more })
  const tableOf = (memory: MemoryPlan, points = [at('Level', '40001'), at('Speed', '40011', { access: 'write' })]) => {
    const handshake = sampleHandshake('PLC', 'M1', {
      memory,
      points,
      terms: [
        ...sampleTerms('function-code', '03'),
        ...sampleTerms('first-register', '0'),
        ...sampleTerms('count', '1'),
        ...sampleTerms('data-type', 'uint16'),
        ...sampleTerms('word-order', 'ABCD'),
      ],
    })
    const devices = [sampleDevice('PLC', '10.1.1.1'), { ...sampleDevice('M1', '10.1.1.2'), unitId: 7 }]
    const job = sampleJob({ devices, handshakes: [handshake] })
    return tableFiles(job, handshake, packingOf(job, handshake)).find(({ id }) => id === 'gateway')
  }
  const contentOf = (...given: Parameters<typeof tableOf>) => {
    const content = tableOf(...given)?.content
    return content && 'text' in content ? content.text.trim().split('\r\n').slice(1) : content
  }

  test('what is asked and what is sent, each with its words of the memory, and the errors', () => {
    // The two words behind the error block are the gap that it fills best.
    expect(contentOf({ ...said, states: 1, errors: 140 })).toEqual([
      '1,reads,7,3,0,1,1000,148,2',
      'Speed,sends,7,6,10,1,on change,400,1',
      'Errors,tells,,,,,,140,8',
    ])
  })

  // Function codes: Modbus Application Protocol V1.1b3, 6.5 (05), 6.6 (06), 6.11 (0F), 6.12 (10).
  test.each([
    ['00005', 'bool', 5],
    ['40011', 'uint16', 6],
    ['40011', 'float32', 16],
  ] as const)('%s as %s is written by function %i', (register, type, code) => {
    const source = { register, type, order: 'ABCD', scale: 1 } as const
    const rows = contentOf(said, [at('X', register, { access: 'write', source })])
    expect(String(Array.isArray(rows) ? rows.find((row) => row.startsWith('X,')) : '').split(',')[3]).toBe(String(code))
  })

  test('it is not made before the memory is said, nor where something has no place', () => {
    expect(contentOf(blankPath.memory)).toEqual({
      missing: 'it is not said which words the controller reads and writes',
    })
    expect(contentOf({ ...said, readCount: 1, states: 4 })).toEqual({ missing: 'there is no place for Command 1' })
  })
})
