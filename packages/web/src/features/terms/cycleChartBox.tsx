import type { RoundCurve } from '@calm/core/serial'
import { useEffect, useRef } from 'react'
import { drawCycle } from './cycleChart'

interface CycleChartBoxProps {
  readonly curves: readonly RoundCurve[]
  readonly here: { readonly rate: number; readonly ms: number }
}

/** The chart of a line's round, with its figures in words for those who do not see it. */
export function CycleChartBox({ curves, here }: CycleChartBoxProps) {
  const box = useRef<HTMLDivElement>(null)
  const drawn = JSON.stringify({ curves, here })
  useEffect(() => {
    const { curves: lines, here: point } = JSON.parse(drawn) as CycleChartBoxProps
    return box.current ? drawCycle(box.current, lines, point) : undefined
  }, [drawn])
  return (
    <div
      ref={box}
      className="h-64 w-full"
      role="img"
      aria-label={`Time of a round against the bit rate. This line: ${Math.round(here.ms)} ms at ${here.rate} bit/s.`}
    />
  )
}
