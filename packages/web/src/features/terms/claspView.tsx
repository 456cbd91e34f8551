import type { Clasp, TermContext } from '@calm/core/terms'
import { useEffect, useRef, useState } from 'react'
import { claspPaths, placeRows, reachOf } from './claspShape'
import { ClaspRowView } from './claspRow'
import type { TermEdit } from './useTermEdit'

/** Two sheets that meet at a stepped seam, one for each end. */
export function ClaspView({ clasp, context, terms }: { clasp: Clasp; context: TermContext; terms: TermEdit }) {
  const box = useRef<HTMLDivElement>(null)
  const width = useWidth(box)
  const { placed, height } = placeRows(clasp.rows)
  const paths = claspPaths(placed, width, height)
  return (
    <div
      className="clasp"
      ref={box}
      style={{ height, '--reach': `${reachOf(width)}px` } as React.CSSProperties}
      role="group"
      aria-label="Terms of both ends"
    >
      <svg className="clasp-bg" viewBox={`0 0 ${width} ${height}`} preserveAspectRatio="none" aria-hidden="true">
        <path className="hand" d={paths.left} />
        <path className="hand" d={paths.right} />
        <path className="seam" d={paths.seam} />
        <path className="seam loose" d={paths.loose} />
        <path className="edge" d={paths.edges} />
        <path className="half" d={paths.halves} />
      </svg>
      {placed.map((place, k) => (
        <ClaspRowView
          key={place.row.id}
          place={place}
          startsGroup={placed[k - 1]?.row.group !== place.row.group}
          context={context}
          terms={terms}
        />
      ))}
    </div>
  )
}

function useWidth(box: React.RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(1080)
  useEffect(() => {
    if (!box.current) return
    const watcher = new ResizeObserver(([entry]) => entry && setWidth(Math.round(entry.contentRect.width)))
    watcher.observe(box.current)
    return () => watcher.disconnect()
  }, [box])
  return width
}
