import type { Topology } from '@calm/core/lineUp'
import { wrap, type Remote } from 'comlink'
import { useEffect, useState } from 'react'
import type { LaidOut, LayoutApi } from './layout.worker'

let shared: Remote<LayoutApi> | undefined

/** Places the boxes of a picture, off the page's own thread; the picture before stays until the new one is there. */
export function useLayout(topology: Topology): LaidOut | undefined {
  const [laidOut, setLaidOut] = useState<LaidOut | undefined>(undefined)
  useEffect(() => {
    let current = true
    shared ??= wrap<LayoutApi>(new Worker(new URL('./layout.worker.ts', import.meta.url), { type: 'module' }))
    void shared.layOut(topology).then((placed) => {
      if (current) setLaidOut(placed)
    })
    return () => {
      current = false
    }
  }, [topology])
  return laidOut
}
