type PointXY = readonly [number, number]

const short = (value: number) => Number(value.toFixed(2))

/** A polyline with rounded corners as an SVG path. */
export function rounded(points: readonly PointXY[], radius: number): string {
  const [first, ...rest] = points
  if (!first) return ''
  let path = `M${short(first[0])} ${short(first[1])}`
  let before = first
  rest.forEach((corner, k) => {
    const after = rest[k + 1]
    if (!after) {
      path += `L${short(corner[0])} ${short(corner[1])}`
      return
    }
    const into = Math.hypot(corner[0] - before[0], corner[1] - before[1])
    const out = Math.hypot(after[0] - corner[0], after[1] - corner[1])
    const cut = Math.min(radius, into / 2, out / 2)
    const towards = (from: PointXY, length: number): PointXY =>
      length === 0
        ? corner
        : [corner[0] + ((from[0] - corner[0]) / length) * cut, corner[1] + ((from[1] - corner[1]) / length) * cut]
    const start = towards(before, into)
    const end = towards(after, out)
    path += `L${short(start[0])} ${short(start[1])}Q${short(corner[0])} ${short(corner[1])} ${short(end[0])} ${short(end[1])}`
    before = corner
  })
  return path
}

/** The stepped seam down a line at `x`, from `top` to `bottom`: the two halves that mesh. */
export function seamDown(x: number, top: number, bottom: number, period: number, depth: number): readonly PointXY[] {
  const teeth = Math.max(1, Math.round((bottom - top) / period))
  const step = (bottom - top) / teeth
  const points: PointXY[] = [[x, top]]
  for (let k = 0; k < teeth; k += 1) {
    const y = top + k * step
    points.push([x + depth, y], [x + depth, y + step / 2], [x - depth, y + step / 2], [x - depth, y + step])
  }
  points.push([x, bottom])
  return points
}

/** The same seam lying along a line at `y`. */
export function seamAlong(y: number, left: number, right: number, period: number, depth: number): readonly PointXY[] {
  return seamDown(y, left, right, period, depth).map(([a, b]) => [b, a] as const)
}
