import { useEffect, useRef } from 'react'
import { drawLooks, type LookOnChart } from './looksChart'

/** The chart of a value over its looks, with its ends in words for those who do not see it. */
export function LooksChartBox({ looks, unit }: { readonly looks: readonly LookOnChart[]; readonly unit: string }) {
  const box = useRef<HTMLDivElement>(null)
  const drawn = JSON.stringify(looks)
  useEffect(
    () => (box.current ? drawLooks(box.current, JSON.parse(drawn) as readonly LookOnChart[], unit) : undefined),
    [drawn, unit],
  )
  const [first, last] = [looks[0], looks.at(-1)]
  return (
    <div
      ref={box}
      className="h-48 w-full"
      role="img"
      aria-label={`${looks.length} looks, from ${first?.value} to ${last?.value} ${unit}`}
    />
  )
}

export default LooksChartBox
