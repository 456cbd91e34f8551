import { LIVE_INTERVAL_MS, type LiveHop, type LiveReading } from '@calm/contract'
import { api, pathOf } from '@calm/contract/api'
import { useQueryClient } from '@tanstack/react-query'
import { createContext, useContext, useEffect, useMemo, useRef, useState } from 'react'
import { thisPage } from './client'
import { refreshJob, refreshJobSoon } from './queries'
import { forgetRevisions, isBehind } from './revisions'
import { hearServerClock } from './serverClock'
import { refreshWalk } from './walk'

/** A wait that is over, as the server told it. */
export interface Ring {
  readonly stepKey: string
  readonly say: string
  readonly missing: boolean
}

/** A reading, with how long it took since the one before it, ms. */
export type TimedReading = LiveReading & { readonly interval: number }

/** What was read last of one point, by hop. */
export type Readings = Readonly<Partial<Record<LiveHop, TimedReading>>>
/** What was read last of every point of the handshake that is watched, by point. */
export type ReadingsByPoint = Readonly<Record<string, Readings>>

interface Stream {
  /** `lost` while the server does not answer; the page goes on with what it has. */
  readonly state: 'opening' | 'live' | 'lost'
  readonly lostSince: number | undefined
  readonly readings: ReadingsByPoint
  /** The last wait that was over, until somebody has seen it. */
  readonly ring: Ring | undefined
  readonly hush: () => void
  /** Which handshake is read live; the stages say it. */
  readonly watch: (handshakeId: string | undefined) => void
}

const StreamContext = createContext<Stream | undefined>(undefined)

/** One event stream for a page: changes of the job, and the readings of the handshake that is watched. */
export function StreamProvider({ jobId, children }: { jobId: string; children: React.ReactNode }) {
  const client = useQueryClient()
  const [handshakeId, watch] = useState<string | undefined>(undefined)
  const [state, setState] = useState<Stream['state']>('opening')
  const [lostSince, setLostSince] = useState<number | undefined>(undefined)
  const [readings, setReadings] = useState<ReadingsByPoint>({})
  const [ring, setRing] = useState<Ring | undefined>(undefined)
  const hasHeard = useRef(false)

  useEffect(() => {
    setReadings({})
    const source = new EventSource(`/api${pathOf(api.stream, { jobId })}${handshakeId ? `?live=${handshakeId}` : ''}`)
    source.addEventListener('hello', (event) => {
      setState('live')
      setLostSince(undefined)
      // What changed between loading and listening, or while nobody listened, is fetched now.
      if (isBehind(jobId, JSON.parse(event.data).revision)) {
        forgetRevisions(jobId)
        void refreshJob(client, jobId)
      } else if (hasHeard.current) {
        // What a wait has seen stands in no log: no revision says that the walk went on while nobody listened.
        void refreshWalk(client, jobId)
      }
      hasHeard.current = true
    })
    source.addEventListener('changed', (event) => {
      if (JSON.parse(event.data).page !== thisPage) refreshJobSoon(client, jobId)
    })
    source.addEventListener('reading', (event) => {
      const reading = JSON.parse(event.data) as LiveReading
      hearServerClock(reading.at)
      setReadings((before) => ({
        ...before,
        [reading.pointId]: { ...before[reading.pointId], [reading.hop]: timed(reading, before) },
      }))
    })
    source.addEventListener('ring', (event) => {
      setRing(JSON.parse(event.data) as Ring)
      void refreshJob(client, jobId)
    })
    source.onerror = () => {
      setState('lost')
      // What was read before is not live any more and must not look it.
      setReadings({})
      setLostSince((before) => before ?? Date.now())
    }
    return () => source.close()
  }, [client, jobId, handshakeId])

  const value = useMemo(
    () => ({ state, lostSince, readings, watch, ring, hush: () => setRing(undefined) }),
    [state, lostSince, readings, ring],
  )
  return <StreamContext value={value}>{children}</StreamContext>
}

/** Many points on a slow line are read less often than they are asked for: then that is their interval. */
function timed(reading: LiveReading, before: ReadingsByPoint): TimedReading {
  const last = before[reading.pointId]?.[reading.hop]
  return { ...reading, interval: Math.max(LIVE_INTERVAL_MS, last ? reading.at - last.at : 0) }
}

export function useStream(): Stream {
  const stream = useContext(StreamContext)
  if (!stream) throw new Error('useStream needs a StreamProvider above it')
  return stream
}

/** Watches a handshake while the component stands on the screen. */
export function useLiveReadings(handshakeId: string | undefined): ReadingsByPoint {
  const { watch, readings } = useStream()
  useEffect(() => {
    watch(handshakeId)
    return () => watch(undefined)
  }, [watch, handshakeId])
  return readings
}
