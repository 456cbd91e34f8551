import type { RowStanding } from '@calm/core/job'
import type { Clasp, TermContext, TermId } from '@calm/core/terms'
import { useEffect, useRef, useState } from 'react'
import { claspPaths, placeRows, measuresOf } from './claspShape'
import { ClaspRowView } from './claspRow'
import type { TermEdit } from './useTermEdit'

/** Two sheets that meet at a stepped seam, one for each end. */
export function ClaspView({
  clasp,
  context,
  terms,
  standing,
}: {
  clasp: Pick<Clasp, 'rows'>
  context: TermContext
  terms: TermEdit
  /** What is known to be found, entered and in force; left out where nobody looks. */
  standing?: ReadonlyMap<TermId, RowStanding>
}) {
  const box = useRef<HTMLDivElement>(null)
  const width = useWidth(box)
  const { placed, height } = placeRows(clasp.rows, measuresOf(width))
  const paths = claspPaths(placed, width, height)
  return (
    <div
      className="@container relative flex-none bg-ground"
      ref={box}
      style={{ height, '--reach': `${measuresOf(width).reach}px` } as React.CSSProperties}
      role="group"
      aria-label="Terms of both ends"
    >
      <svg
        className="absolute inset-0 h-full w-full"
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path className="fill-sheet" d={paths.left} />
        <path className="fill-sheet" d={paths.right} />
        <path
          className="fill-none stroke-proven stroke-[3.2] [stroke-linecap:round] [stroke-linejoin:round]"
          d={paths.seam}
        />
        <path
          className="fill-none stroke-ink-faint stroke-[1.8] [stroke-dasharray:2_6] [stroke-linecap:round] [stroke-linejoin:round]"
          d={paths.loose}
        />
        <path className="fill-none stroke-odds-mark stroke-3 [stroke-linecap:round]" d={paths.edges} />
        <path className="fill-odds-mark" d={paths.halves} />
      </svg>
      {placed.map((place, k) => (
        <ClaspRowView
          key={place.row.id}
          place={place}
          startsGroup={placed[k - 1]?.row.group !== place.row.group}
          isAlone={placed[k + 1]?.row.group !== place.row.group}
          context={context}
          terms={terms}
          standing={standing?.get(place.row.id)}
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
