import { heardBy, judgeHit, LISTEN_SECONDS, ASK_EVERY_SECONDS, reaches } from '@calm/core/discovery'
import type { ListenView } from '@calm/contract/api'
import { Ear } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { useListening } from '../../../api'
import { Button, Glyph, Problems, Progress, Toast } from '../../../ui'
import { HitCard } from './hitCard'
import type { ViewProps } from '../viewProps'

interface ListenProps extends Pick<ViewProps, 'job' | 'record' | 'acts' | 'laptop'> {
  /** Which box it is, is asked for this device. */
  readonly onWhich?: (deviceId: string) => void
}

/** Whoever shows itself on this wire, whatever address it has: asked again and again while it starts. */
export function Listen({ job, record, acts, laptop, onWhich }: ListenProps) {
  const listening = useListening(job.id)
  const [problem, setProblem] = useState<unknown>(undefined)
  const view = listening.data ?? undefined
  const running = view?.state === 'listening'
  const news = useNews(view)
  const begin = () => {
    setProblem(undefined)
    acts.listen().catch(setProblem)
  }
  return (
    <section aria-label="Who shows itself">
      <h2>Who shows itself</h2>
      <p className="max-w-[72ch] note">
        For {LISTEN_SECONDS} s everybody on this wire is asked every {ASK_EVERY_SECONDS} s who it is: a device shows
        itself some 80 s after it got power, whatever its address. No network of the job is needed, nothing is written.
      </p>
      <div className="my-2 flex flex-wrap items-center gap-x-4.5 gap-y-2">
        {running ? (
          <Button onClick={() => void acts.stopListening().catch(setProblem)}>Stop listening</Button>
        ) : (
          <Button look="act" onClick={begin}>
            <Ear size={16} aria-hidden /> Listen
          </Button>
        )}
        {view && (
          <p className="note" role="status">
            {running ? `${view.seconds} of ${view.of} s` : `Listened ${view.seconds} s`}, asked {view.rounds} times with{' '}
            {view.sent} datagrams: {view.hits.length} heard
            {view.refused > 0 && `, ${view.refused} answers not to be read`}
          </p>
        )}
      </div>
      {running && <Progress label="Seconds listened" value={view.seconds} of={view.of} />}
      <Problems reason={problem} />
      {view && (
        <>
          <ul className="my-2 grid gap-0.5" aria-label="Ways of listening">
            {view.ways.map(({ by, open, note }) => (
              <li key={by} className="flex items-center gap-2 note">
                <Glyph state={open ? (running ? 'in-hand' : 'proven') : 'parked'} size={13} />
                Who {heardBy[by].name}: {open ? `${note}. Reach: ${reaches[heardBy[by].reach]}.` : `not heard. ${note}`}
              </li>
            ))}
            <li className="flex items-center gap-2 note">
              <Glyph state="parked" size={13} /> Who announces its address by ARP: not heard. That needs raw access to
              the adapter; the neighbour table is looked at instead.
            </li>
          </ul>
          <ol className="grid gap-2.5" aria-label="Heard">
            {view.hits.map((hit) => (
              <HitCard
                key={hit.id}
                job={job}
                record={record}
                acts={acts}
                laptop={laptop}
                judged={judgeHit(job, record, laptop, hit)}
                onWhich={onWhich}
              />
            ))}
          </ol>
          {!running && view.hits.length === 0 && (
            <p>Nobody was heard. That says only that nobody showed itself in these ways while somebody listened.</p>
          )}
        </>
      )}
      {news.text !== '' && (
        <Toast urgent glyph={<Glyph state="in-hand" size={16} />} action={<Button onClick={news.seen}>Seen</Button>}>
          {news.text}
        </Toast>
      )}
    </section>
  )
}

/** Who was heard since somebody looked: rung for while listening goes on. What was there when the page opened is no news. */
function useNews(view: ListenView | undefined) {
  const known = useRef<{ readonly startedAt: number; readonly ids: Set<string> } | undefined>(undefined)
  const [text, setText] = useState('')
  useEffect(() => {
    if (!view) return
    if (known.current?.startedAt !== view.startedAt) {
      const isFresh = known.current !== undefined || view.seconds <= ASK_EVERY_SECONDS
      known.current = { startedAt: view.startedAt, ids: new Set(isFresh ? [] : view.hits.map(({ id }) => id)) }
    }
    const fresh = view.hits.filter(({ id }) => !known.current?.ids.has(id))
    for (const { id } of fresh) known.current.ids.add(id)
    const last = fresh.at(-1)
    if (last) setText(`Heard: ${[last.address || last.hardwareAddress, last.says].filter(Boolean).join(', ')}`)
  }, [view])
  return { text, seen: () => setText('') }
}
