import { Graph, layout } from '@dagrejs/dagre'
import type { Topology } from '@calm/core/lineUp'
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
    readonly points: readonly (readonly [number, number])[]
  }[]
}

const SIZE = { network: [168, 40], line: [168, 40], device: [150, 40], many: [190, 34] } as const

const api = {
  layOut: ({ boxes, links }: Topology): LaidOut => {
    const graph = new Graph({ multigraph: true })
    graph.setGraph({ rankdir: 'LR', nodesep: 10, ranksep: 70, marginx: 12, marginy: 12 })
    graph.setDefaultEdgeLabel(() => ({}))
    for (const box of boxes) graph.setNode(box.id, { width: SIZE[box.what][0], height: SIZE[box.what][1] })
    links.forEach((link, k) => graph.setEdge(link.from, link.to, {}, String(k)))
    layout(graph)
    const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number }
    return {
      width,
      height,
      boxes: Object.fromEntries(
        boxes.map((box) => {
          const node = graph.node(box.id) as Placed
          return [box.id, { x: node.x, y: node.y, width: node.width, height: node.height }]
        }),
      ),
      links: links.map((link, k) => {
        const edge = graph.edge(link.from, link.to, String(k)) as { points?: { x: number; y: number }[] }
        return { from: link.from, to: link.to, points: (edge.points ?? []).map(({ x, y }) => [x, y] as const) }
      }),
    }
  },
}

export type LayoutApi = typeof api
expose(api)
