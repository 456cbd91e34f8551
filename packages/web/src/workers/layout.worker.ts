import { Graph, layout } from '@dagrejs/dagre'
import type { Topology, TopologyBox, TopologyLink } from '@calm/core/lineUp'
import { expose } from 'comlink'

/** Where a box stands: its middle, and its size. */
export interface Placed {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** The picture with every box placed and every link as a row of points. */
export interface LaidOut {
  readonly width: number
  readonly height: number
  readonly boxes: Readonly<Record<string, Placed>>
  readonly links: readonly {
    readonly from: string
    readonly to: string
    /** What stands beside the link. */
    readonly by: string
    readonly points: readonly (readonly [number, number])[]
  }[]
}

const SIZE = { network: [168, 40], line: [168, 40], device: [150, 40], many: [190, 34] } as const

/** Whether boxes that follow each other in one column mostly go upwards. */
function isUpsideDown(placed: readonly Placed[]): boolean {
  let upwards = 0
  const lastOf = new Map<number, number>()
  for (const { x, y } of placed) {
    const before = lastOf.get(x)
    if (before !== undefined) upwards += Math.sign(before - y)
    lastOf.set(x, y)
  }
  return upwards > 0
}

const GAP = 18

/** One part of the picture that hangs together, laid out by itself from its own corner. */
function layOutPart({ boxes, links }: Topology): LaidOut {
  const graph = new Graph({ multigraph: true })
  graph.setGraph({ rankdir: 'LR', nodesep: 10, ranksep: 70, marginx: 12, marginy: 0 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const box of boxes) graph.setNode(box.id, { width: SIZE[box.what][0], height: SIZE[box.what][1] })
  links.forEach((link, k) => graph.setEdge(link.from, link.to, {}, String(k)))
  layout(graph)
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number }
  const place = (id: string): Placed => {
    const { x, y, width: wide, height: high } = graph.node(id) as Placed
    return { x, y, width: wide, height: high }
  }
  // The plan reads from the top; the library may have it the other way round.
  const turned = isUpsideDown(boxes.map((box) => place(box.id)))
  const down = (y: number) => (turned ? height - y : y)
  return {
    width,
    height,
    boxes: Object.fromEntries(
      boxes.map((box) => {
        const placed = place(box.id)
        return [box.id, { ...placed, y: down(placed.y) }]
      }),
    ),
    links: links.map((link, k) => {
      const edge = graph.edge(link.from, link.to, String(k)) as { points?: { x: number; y: number }[] }
      return { ...link, points: (edge.points ?? []).map(({ x, y }) => [x, down(y)] as const) }
    }),
  }
}

/** Boxes that hang together, in the order of their first box. */
function partsOf({ boxes, links }: Topology): readonly Topology[] {
  const head = new Map(boxes.map((box) => [box.id, box.id]))
  const headOf = (id: string): string => {
    const above = head.get(id) ?? id
    return above === id ? id : headOf(above)
  }
  for (const { from, to } of links) head.set(headOf(to), headOf(from))
  const parts = new Map<string, { boxes: TopologyBox[]; links: TopologyLink[] }>()
  for (const box of boxes) {
    const part = parts.get(headOf(box.id)) ?? { boxes: [], links: [] }
    parts.set(headOf(box.id), part)
    part.boxes.push(box)
  }
  for (const link of links) parts.get(headOf(link.from))?.links.push(link)
  return [...parts.values()]
}

const api = {
  layOut: (topology: Topology): LaidOut => {
    let top = GAP
    let width = 0
    const boxes: Record<string, Placed> = {}
    const links: LaidOut['links'][number][] = []
    for (const part of partsOf(topology)) {
      const laidOut = layOutPart(part)
      for (const [id, placed] of Object.entries(laidOut.boxes)) boxes[id] = { ...placed, y: placed.y + top }
      for (const link of laidOut.links)
        links.push({ ...link, points: link.points.map(([x, y]) => [x, y + top] as const) })
      top += laidOut.height + GAP
      width = Math.max(width, laidOut.width)
    }
    return { width, height: top, boxes, links }
  },
}

export type LayoutApi = typeof api
expose(api)
