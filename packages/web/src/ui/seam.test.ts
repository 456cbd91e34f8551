import fc from 'fast-check'
import { rounded, seamAlong, seamDown } from './seam'

describe('the seam', () => {
  test('begins and ends on its line, whatever its length', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2000 }), fc.integer({ min: 4, max: 60 }), (length, period) => {
        const points = seamDown(10, 0, length, period, 5)
        expect(points[0]).toEqual([10, 0])
        expect(points.at(-1)).toEqual([10, length])
        expect(points.every(([x]) => Math.abs(x - 10) <= 5)).toBe(true)
        const ys = points.map(([, y]) => y)
        // Never back up, but for the rounding of binary fractions.
        expect(ys.every((y, k) => y >= (ys[k - 1] ?? 0) - 1e-9)).toBe(true)
      }),
    )
  })

  test('lying down it is the same with its axes changed', () => {
    expect(seamAlong(7, 0, 90, 18, 5)).toEqual(seamDown(7, 0, 90, 18, 5).map(([x, y]) => [y, x]))
  })

  test('rounded corners never leave the polyline by more than their radius', () => {
    const path = rounded(
      [
        [0, 0],
        [10, 0],
        [10, 10],
      ],
      3,
    )
    expect(path).toBe('M0 0L7 0Q10 0 10 3L10 10')
  })

  test('a corner on a corner does not divide by nothing', () => {
    expect(
      rounded(
        [
          [0, 0],
          [0, 0],
          [5, 0],
        ],
        3,
      ),
    ).not.toMatch(/NaN/)
    expect(rounded([], 3)).toBe('')
  })
})
