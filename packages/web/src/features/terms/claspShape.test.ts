import type { ClaspRow } from '@calm/core/terms'
import { claspPaths, OPEN_ROW, placeRows, ROW } from './claspShape'

const row = (id: string, state: ClaspRow['state']): ClaspRow => ({
  id: id as ClaspRow['id'],
  name: id,
  group: 'reach',
  ends: { controller: { state: 'blank' }, device: { state: 'blank' } },
  state,
  remark: '',
  fixes: [],
})

/** Numbers of an SVG path, in order. */
const numbers = (path: string) => [...path.matchAll(/-?\d+(?:\.\d+)?/g)].map(([text]) => Number(text))

describe('the shape of the clasp', () => {
  test('rows follow each other without a gap; a row at odds is taller', () => {
    const { placed, height } = placeRows([row('a', 'equal'), row('b', 'at-odds'), row('c', 'fits')])
    expect(placed.map((place) => place.height)).toEqual([ROW, OPEN_ROW, ROW])
    expect(placed[1]?.top).toBe((placed[0]?.top ?? 0) + ROW)
    expect(placed[2]?.top).toBe((placed[1]?.top ?? 0) + OPEN_ROW)
    expect(height).toBeGreaterThan((placed[2]?.top ?? 0) + ROW)
  })

  test('while all agrees the seam runs through from top to bottom, and there is no edge', () => {
    const { placed, height } = placeRows([row('a', 'equal'), row('b', 'fits')])
    const paths = claspPaths(placed, 1000, height)
    expect(paths.edges).toBe('')
    expect(paths.halves).toBe('')
    expect(paths.loose).toBe('')
    const ys = numbers(paths.seam).filter((_, k) => k % 2 === 1)
    expect(Math.min(...ys)).toBe(0)
    expect(Math.max(...ys)).toBe(height)
  })

  test('a row at odds parts the seam: two edges that mirror each other, and a torn disc on each', () => {
    const { placed, height } = placeRows([row('a', 'equal'), row('b', 'at-odds'), row('c', 'equal')])
    const paths = claspPaths(placed, 1000, height)
    expect(paths.edges.match(/M/g)).toHaveLength(2)
    const xs = numbers(paths.edges)
    expect(xs.some((x) => x === 500 - 226)).toBe(true)
    expect(xs.some((x) => x === 500 + 226)).toBe(true)
    expect(paths.halves.match(/A/g)).toHaveLength(2)
    // The closed parts above and below stay.
    expect(paths.seam.match(/M/g)).toHaveLength(2)
  })

  test('a term that is not known at both ends is a loose stretch, neither closed nor open', () => {
    const { placed, height } = placeRows([row('a', 'equal'), row('b', 'unknown')])
    const paths = claspPaths(placed, 1000, height)
    expect(paths.loose).toMatch(/^M500 /)
    expect(paths.edges).toBe('')
  })

  test('both sheets end where the whole ends, at any width', () => {
    for (const width of [820, 1084, 1730]) {
      const { placed, height } = placeRows([row('a', 'refused'), row('b', 'equal')])
      const paths = claspPaths(placed, width, height)
      expect(paths.left.endsWith(`L${width / 2} ${height}H0Z`)).toBe(true)
      expect(paths.right.endsWith(`L${width / 2} ${height}H${width}Z`)).toBe(true)
    }
  })
})
