import fc from 'fast-check'
import { addLoads, ageAtTask, cyclicLoad, shareOfLink, wasteOf, wireBytes } from '.'

const image = { inputBytes: 480, outputBytes: 480, intervalMs: 5, hasRunIdle: true }

// Check values: 240 and 240 words used for 12 and 12 waste 95 %; 480 words every 5 ms are 192 kB/s against 9.6 kB/s.
test('a fixed image against one sized to need', () => {
  expect(cyclicLoad(image).dataBytes).toBe(192_000)
  expect(cyclicLoad({ ...image, inputBytes: 24, outputBytes: 24 }).dataBytes).toBe(9_600)
  expect(wasteOf(image, { inputs: 24, outputs: 24 })).toEqual({ bytes: 182_400, share: 0.95 })
})

// IEEE 802.3: the shortest frame is 64 bytes, 84 with preamble and gap; RFC 791 and 768 for the 28 bytes in it.
test('frames on the wire', () => {
  expect(wireBytes(0)).toBe(38 + 48)
  expect(wireBytes(100) - wireBytes(0)).toBe(100)
  expect(cyclicLoad(image).packets).toBe(400)
  // 200 messages a second towards the controller, 480 bytes of data and 86 around each.
  expect(cyclicLoad(image).towards).toBe(200 * 566)
  expect(shareOfLink(cyclicLoad(image), 100)).toBeCloseTo((200 * 570 * 8) / 1e8, 10)
})

test('several add up, and no more than all can be used', () => {
  const loads = [image, { ...image, intervalMs: 10 }].map(cyclicLoad)
  expect(addLoads(loads).packets).toBe(600)
  expect(wasteOf(image, { inputs: 2000, outputs: 0 })).toEqual({ bytes: 0, share: 0 })
})

test('age at the task: a value followed through phases drawn at random is never outside, and its mean is the mean', () => {
  const [intervalMs, taskMs] = [20, 10]
  const age = ageAtTask({ intervalMs, inputBytes: 60 }, taskMs, 100)
  const ages: number[] = []
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (one, other) => {
        // Taken at 0; the next message leaves after `one` of an interval, the task looks after `other` of its period.
        const used = one * intervalMs + (wireBytes(60) * 8) / 100_000 + other * taskMs
        expect(used).toBeGreaterThanOrEqual(age.best - 1e-9)
        expect(used).toBeLessThanOrEqual(age.worst + 1e-9)
      },
    ),
  )
  for (let a = 0.005; a < 1; a += 0.01)
    for (let b = 0.005; b < 1; b += 0.01) ages.push(a * intervalMs + b * taskMs + age.best)
  expect(ages.reduce((sum, each) => sum + each, 0) / ages.length).toBeCloseTo(age.typical, 6)
})
