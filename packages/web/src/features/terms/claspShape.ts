import type { ClaspRow } from '@calm/core/terms'
import { rounded, seamDown } from '../../ui'

/** Height of a row that is closed, and of one where the seam parts. */
export const ROW = 27
export const OPEN_ROW = 116
const EDGE = 10
/** Narrower than this the name of a term stands above its two values; the same width stands in `claspRow.tsx`. */
const NARROW = 620

interface Measures {
  readonly row: number
  readonly openRow: number
  /** How far each edge of a gap stands from the middle; less where there is little room. */
  readonly reach: number
}

/** What a clasp of some width, in px, has room for. */
export const measuresOf = (width: number): Measures =>
  width < NARROW
    ? { row: 50, openRow: 224, reach: Math.round(width / 2) - 12 }
    : { row: ROW, openRow: OPEN_ROW, reach: width < 960 ? 186 : 226 }

export const isOpen = (row: ClaspRow) => row.state === 'at-odds' || row.state === 'refused'
const isLoose = (row: ClaspRow) => row.state === 'unknown'

export interface PlacedRow {
  readonly row: ClaspRow
  readonly top: number
  readonly height: number
}

/** Rows one under the other. */
export function placeRows(
  rows: readonly ClaspRow[],
  measures: Measures = measuresOf(Infinity),
): {
  readonly placed: readonly PlacedRow[]
  readonly height: number
} {
  let top = EDGE
  const placed = rows.map((row) => {
    const height = isOpen(row) ? measures.openRow : measures.row
    const place = { row, top, height }
    top += height
    return place
  })
  return { placed, height: top + EDGE }
}

type Stretch = { readonly kind: 'closed' | 'open' | 'loose'; readonly top: number; readonly bottom: number }

/** Rows of one kind joined, so that the seam runs through. */
function stretches(placed: readonly PlacedRow[], height: number): readonly Stretch[] {
  const found: { kind: Stretch['kind']; top: number; bottom: number }[] = []
  for (const { row, top, height: rowHeight } of placed) {
    const kind = isOpen(row) ? 'open' : isLoose(row) ? 'loose' : 'closed'
    const last = found.at(-1)
    if (last && last.kind === kind && kind !== 'open') last.bottom = top + rowHeight
    else found.push({ kind, top, bottom: top + rowHeight })
  }
  const first = found[0]
  const last = found.at(-1)
  if (first) first.top = 0
  if (last) last.bottom = height
  return found
}

interface ClaspPaths {
  readonly left: string
  readonly right: string
  readonly seam: string
  readonly loose: string
  readonly edges: string
  readonly halves: string
}

/** The two sheets, the seam between them, and the gaps where they part. */
export function claspPaths(placed: readonly PlacedRow[], width: number, height: number): ClaspPaths {
  const middle = width / 2
  const { reach, row } = measuresOf(width)
  let seam = ''
  let loose = ''
  let edges = ''
  let halves = ''
  let left = `M0 0H${middle}`
  let right = `M${width} 0H${middle}`
  for (const { kind, top, bottom } of stretches(placed, height)) {
    if (kind === 'open') {
      const edge = (side: 1 | -1) =>
        `C${middle + side * 46} ${top + 6} ${middle + side * reach} ${top - 2} ${middle + side * reach} ${top + 44}` +
        `V${bottom - 44}C${middle + side * reach} ${bottom + 2} ${middle + side * 46} ${bottom - 6} ${middle} ${bottom}`
      edges += `M${middle} ${top}${edge(-1)}M${middle} ${top}${edge(1)}`
      left += `L${middle} ${top}${edge(-1)}`
      right += `L${middle} ${top}${edge(1)}`
      const half = (top + bottom) / 2
      halves += `M${middle - reach} ${half - 20}A14 14 0 0 0 ${middle - reach} ${half + 8}Z`
      halves += `M${middle + reach} ${half - 8}A14 14 0 0 1 ${middle + reach} ${half + 20}Z`
      continue
    }
    const teeth = Math.max(1, Math.round((bottom - top) / row))
    const path =
      kind === 'closed'
        ? rounded(seamDown(middle, top, bottom, (bottom - top) / teeth, 7), 4)
        : `M${middle} ${top}L${middle} ${bottom}`
    if (kind === 'closed') seam += path
    else loose += path
    left += path.replace(/^M/, 'L')
    right += path.replace(/^M/, 'L')
  }
  return {
    left: `${left}L${middle} ${height}H0Z`,
    right: `${right}L${middle} ${height}H${width}Z`,
    seam,
    loose,
    edges,
    halves,
  }
}
