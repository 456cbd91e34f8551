import type { Finding } from '@calm/core/findings'
import { standingFindings, type AcceptedFinding } from '@calm/core/lineUp'
import type { Job } from '@calm/core/job'
import { format } from 'date-fns/format'
import { lazy, Suspense, useDeferredValue, useEffect, useMemo, useState } from 'react'
import { Outlet, useNavigate, useOutletContext, useParams } from 'react-router'
import { StreamProvider, useJob, useLaptop, useStream, useWalk, useMe } from '../api'
import { cn, Glyph, Person } from '../ui'
import { useFindings } from '../workers'
import { KeysDialog, usePageKeys } from './keys'
import { ModePlate } from './modePlate'
import { stagesOf } from './stages'
import { RingNote } from './ringNote'
import { Strip } from './strip'
import { Walk } from './walk'
import { PageProblemText } from './pageProblem'

const loadFindBox = () => import('./findBox')
const FindBox = lazy(loadFindBox)

/** What every stage is given. */
export interface StageContext {
  readonly job: Job
  /** What stands, without what was accepted. */
  readonly findings: readonly Finding[]
  readonly accepted: readonly AcceptedFinding[]
}

export const useStage = () => useOutletContext<StageContext>()

/** Frame, plate, strip and walk around a stage of a job. */
export function JobShell() {
  const { jobId = '' } = useParams()
  const job = useJob(jobId)
  const me = useMe()
  if (job.data) {
    return (
      <StreamProvider jobId={jobId}>
        <Person.Provider value={me.data?.name ?? ''}>
          <Shell job={job.data} />
        </Person.Provider>
      </StreamProvider>
    )
  }
  if (job.isError) return <PageProblemText reason={job.error} />
  return <p className="p-6 note">Reading the job…</p>
}

/** Plant is a solid frame, bench a dashed one. */
const frame = {
  plant: 'before:inset-0 before:border-6 before:border-plant-frame',
  bench: 'before:inset-0.5 before:rounded-sm before:border-2 before:border-dashed before:border-bench-frame',
} as const

function Shell({ job }: { job: Job }) {
  const laptop = useLaptop()
  const found = useFindings(job, laptop.data)
  const { open: findings, accepted } = useMemo(() => standingFindings(found, job.acceptances), [found, job.acceptances])
  // What is edited is drawn first; the walk follows.
  const settled = useDeferredValue(job)
  const walk = useWalk(job.id)
  const stages = useMemo(() => stagesOf(settled, findings, walk.data), [settled, findings, walk.data])
  const [finding, setFinding] = useState(false)
  const [keys, setKeys] = useState(false)
  const navigate = useNavigate()

  useEffect(() => {
    document.documentElement.dataset.mode = job.mode
    document.title = `${job.name} · Calm Handshake`
  }, [job.mode, job.name])

  // Fetched before it is asked for: who presses Ctrl K types on at once.
  useEffect(() => void loadFindBox(), [])

  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return
      event.preventDefault()
      setFinding(true)
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])

  const pageKeys = useMemo(() => {
    const go = (path: string) => () => void navigate(`/jobs/${job.id}/${path}`)
    return {
      1: go('line-up'),
      2: go('first-contact'),
      3: go('terms'),
      4: go('data-path'),
      5: go('proof'),
      6: go('hand-over'),
      7: go('bench'),
      '?': () => setKeys(true),
    }
  }, [navigate, job.id])
  usePageKeys(pageKeys)

  return (
    <div
      className={cn(
        frame[job.mode],
        "relative grid h-[100dvh] min-h-140 grid-cols-[var(--walk)_minmax(0,1fr)] grid-rows-[var(--strip)_minmax(0,1fr)] p-[var(--frame)] [grid-template-areas:'plate_strip'_'walk_main'] before:pointer-events-none before:absolute before:z-5 max-phone:grid-cols-[minmax(0,1fr)] max-phone:grid-rows-[auto_auto_minmax(0,1fr)] max-phone:[grid-template-areas:'strip'_'walk'_'main'] print:block print:h-auto print:min-h-0 print:p-0 print:before:hidden",
      )}
    >
      <ModePlate job={job} />
      <Strip job={job} walk={walk.data} onFind={() => setFinding(true)} onKeys={() => setKeys(true)} />
      <Walk job={job} stages={stages} walk={walk.data} />
      <Outlet context={{ job, findings, accepted } satisfies StageContext} />
      <LostNote />
      <RingNote />
      {finding && (
        <Suspense>
          <FindBox job={job} stages={stages} onClose={() => setFinding(false)} />
        </Suspense>
      )}
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </div>
  )
}

/** Stands on the screen while the server is away. Nothing typed is thrown away. */
function LostNote() {
  const { state, lostSince } = useStream()
  if (state !== 'lost') return null
  return (
    <p
      className="fixed right-6 bottom-3.5 left-[calc(var(--walk)_+_24px)] z-15 flex items-center gap-2.5 rounded-sm border-2 border-odds-mark bg-sheet px-3.5 py-2.5 max-phone:right-3 max-phone:left-3 print:hidden"
      role="alert"
    >
      <Glyph state="at-odds" size={18} />
      <span>
        The server does not answer{lostSince === undefined ? '' : ` since ${format(lostSince, 'HH:mm:ss')}`}. What
        stands here is from before; what you type stays, and saving works again when the server is back. See the window
        where it was started.
      </span>
    </p>
  )
}
