import { isByReason, meanwhile, type Stop } from '@calm/core/procedure'
import { Play, Smartphone } from 'lucide-react'
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { usePageKeys } from '../../../shell'
import { Button, Glyph, Problems } from '../../../ui'
import { BeginRun, GiveUpRun } from './beginRun'
import { DeviceFacts } from './deviceFacts'
import { HeldStop } from './heldStop'
import { LaptopList } from './laptopPanel'
import { LeftOutNotes } from './leftOutNotes'
import { StepCard } from './stepCard'
import { StepList } from './stepList'
import { StopList } from './stopList'
import { PlanningNote } from '../planningNote'
import { currentStep, currentStop } from '../useFirstContact'
import type { ViewProps } from '../viewProps'

const PhoneDialog = lazy(() => import('./phoneDialog').then(({ PhoneDialog: Component }) => ({ default: Component })))

/** The walk: stops at the left, the step in hand in the middle, what is known of the device at the right. */
export function WalkView({ job, record, contact, acts, laptop }: ViewProps) {
  const [search, setSearch] = useSearchParams()
  const [phone, setPhone] = useState(false)
  const { stops, begun, plan, planning } = contact
  const beginFor = search.get('begin')
  const begin = (deviceId: string | null) =>
    setSearch(
      (before) => {
        const { begin: _gone, ...rest } = Object.fromEntries(before)
        return deviceId === null ? rest : { ...rest, begin: deviceId }
      },
      { replace: true },
    )
  const beginDialog = beginFor !== null && (
    <BeginRun
      job={job}
      record={record}
      acts={acts}
      deviceId={beginFor}
      onClose={() => begin(null)}
      onBegun={(stopKey) => setSearch({ stop: stopKey }, { replace: true })}
    />
  )
  const anyDevice = chosenDevice(job, search.get('stop'), stops)
  const isBusy = planning.busy
  const chosen = stops.find((stop) => stop.key === search.get('stop'))
  const stop = chosen ?? currentStop(stops)
  const step = currentStep(stop)
  const leftOut = plan?.leftOut ?? []
  const isWaiting = stop?.steps.some(({ record: kept }) => kept?.state === 'waiting') ?? false
  const other = useMemo(
    () => (stop && isWaiting ? meanwhile(contact.given, stops, stop) : undefined),
    [contact.given, stops, stop, isWaiting],
  )
  const pane = useRef<HTMLDivElement>(null)
  // The step in hand is at the top, whatever was ticked further down.
  useEffect(() => {
    pane.current?.scrollTo({ top: 0 })
    pane.current?.closest('main')?.scrollTo({ top: 0 })
  }, [step?.key])
  const choose = (key: string) =>
    setSearch((before) => ({ ...Object.fromEntries(before), stop: key }), { replace: true })

  if (!begun) {
    return (
      <div className="min-h-0 flex-1 overflow-y-auto px-6 pt-4 pb-8">
        <LeftOutNotes job={job} acts={acts} leftOut={leftOut} />
        {plan && 'tooLarge' in plan ? (
          <p>The order of so many devices was not found. Leave some out under Order, and walk the others first.</p>
        ) : (
          <>
            <PlanningNote contact={contact} />
            {!isBusy && (
              <p className="mb-3 text-lead">
                {stops.length === 1 ? 'One stop' : `${stops.length} stops`}.{' '}
                {stops[0] ? `First: ${stops[0].title}.` : ''}
              </p>
            )}
            <Button
              look="act"
              size="tall"
              disabled={isBusy || planning.stopped || contact.next.length === 0}
              onClick={() => void acts.saveOrder(record.version, contact.next).catch(() => undefined)}
            >
              Begin the walk
            </Button>
          </>
        )}
        <p className="mt-2">
          <BeginRunButton deviceId={anyDevice} onBegin={begin} />
        </p>
        {beginDialog}
        <Problems reason={acts.of('order').problem} />
        <StopList stops={stops} chosen={undefined} onChoose={() => undefined} />
      </div>
    )
  }
  return (
    <div
      data-walk
      className="grid min-h-0 flex-1 grid-cols-[250px_minmax(0,1fr)_258px] max-laptop:grid-cols-[220px_minmax(0,1fr)] max-phone:flex max-phone:min-h-auto max-phone:flex-none max-phone:flex-col"
    >
      <div className="min-h-0 overflow-y-auto border-r border-rule pt-2 max-phone:order-3 max-phone:overflow-visible max-phone:border-t max-phone:border-r-0 max-phone:border-rule">
        {contact.differs && (
          <div className="grid justify-items-start gap-1.5 bg-odds-wash px-4 py-2.5">
            <p>The job changed: the rest of the order is another one.</p>
            <Button onClick={() => void acts.saveOrder(record.version, contact.next).catch(() => undefined)}>
              Plan again
            </Button>
          </div>
        )}
        <LeftOutNotes job={job} acts={acts} leftOut={leftOut} folded />
        <StopList stops={stops} chosen={stop?.key} onChoose={choose} />
        <p className="flex flex-col items-start px-4 py-3">
          <BeginRunButton deviceId={anyDevice} onBegin={begin} />
          <Button look="plain" onClick={() => setPhone(true)}>
            <Smartphone size={15} aria-hidden /> On the phone
          </Button>
        </p>
        {beginDialog}
        {phone && (
          <Suspense>
            <PhoneDialog onClose={() => setPhone(false)} />
          </Suspense>
        )}
      </div>
      <div
        className="min-h-0 overflow-y-auto px-6.5 pt-4 pb-6 max-phone:order-1 max-phone:overflow-visible max-phone:p-3"
        ref={pane}
      >
        <Problems reason={acts.of('order').problem} />
        {stop ? (
          <>
            <header>
              <p className="note">
                Stop {stops.indexOf(stop) + 1} of {stops.length}
              </p>
              <h2 className="mt-0.5 mb-1 text-say leading-tight font-heavy">{stop.title}</h2>
              {!stop.held && <p className="max-w-[60ch] text-ink-soft">{stop.reason}</p>}
            </header>
            {stop.held && stop.state !== 'settled' ? (
              <HeldStop job={job} held={stop.held} acts={acts} />
            ) : step ? (
              <StepCard
                job={job}
                record={record}
                stop={stop}
                step={step}
                isDue={stop.key === currentStop(stops)?.key}
                laptop={laptop}
                acts={acts}
              />
            ) : (
              <SettledStop stop={stop} next={currentStop(stops)} onNext={() => setSearch({}, { replace: true })} />
            )}
            {other && <Meanwhile stop={other} onGo={() => choose(other.key)} />}
            <StepList stop={stop} current={step} acts={acts} />
            {stop.onDemand !== null && stop.state !== 'settled' && (
              <GiveUpRun key={stop.key} record={record} acts={acts} id={stop.onDemand} />
            )}
          </>
        ) : (
          <p className="flex items-center gap-2 text-lead">
            <Glyph state="proven" size={20} /> Every stop is settled.
          </p>
        )}
      </div>
      <aside className="grid min-h-0 content-start gap-6 overflow-y-auto border-l border-rule px-4.5 py-4 max-laptop:col-span-full max-laptop:max-h-50 max-laptop:border-t max-laptop:border-l-0 max-laptop:border-rule max-phone:order-2 max-phone:max-h-none max-phone:border-l-0">
        {stop?.deviceIds.map((id) => (
          <DeviceFacts key={id} job={job} record={record} deviceId={id} acts={acts} />
        ))}
        <LaptopList laptop={laptop} />
      </aside>
    </div>
  )
}

/** While something waits: the stop that needs neither it, nor the laptop, nor its breaker. */
function Meanwhile({ stop, onGo }: { readonly stop: Stop; readonly onGo: () => void }) {
  const keys = useMemo(() => ({ M: onGo }), [onGo])
  usePageKeys(keys)
  return (
    <p className="mt-4 flex flex-wrap items-center gap-3">
      <span className="note">Meanwhile may be done:</span>
      <Button onClick={onGo}>
        {stop.title} <kbd>M</kbd>
      </Button>
    </p>
  )
}

/** The device of the stop that is looked at, else the first of the job: a run is begun for it unless another is chosen. */
function chosenDevice(job: ViewProps['job'], stopKey: string | null, stops: readonly Stop[]): string {
  const stop = stops.find((each) => each.key === stopKey) ?? currentStop(stops)
  return stop?.deviceIds[0] ?? job.devices[0]?.id ?? ''
}

function BeginRunButton({ deviceId, onBegin }: { deviceId: string; onBegin: (deviceId: string) => void }) {
  if (deviceId === '') return null
  return (
    <Button look="plain" onClick={() => onBegin(deviceId)}>
      <Play size={15} aria-hidden /> Begin a run
    </Button>
  )
}

/** A stop that is over, and the way to the one that is due. */
function SettledStop({ stop, next, onNext }: { stop: Stop; next: Stop | undefined; onNext: () => void }) {
  const keys = useMemo(() => ({ Y: onNext }), [onNext])
  usePageKeys(keys)
  return (
    <div className="mt-3.5 grid gap-3 border-t border-rule pt-3.5">
      <p className="flex items-center gap-2 text-lead">
        <Glyph state={isByReason(stop) ? 'parked' : 'proven'} size={18} />
        {isByReason(stop) ? 'This stop is settled, in part by a reason.' : 'This stop is settled.'}
      </p>
      {next && (
        <div className="flex flex-wrap items-center gap-2.5">
          <Button
            className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
            look="act"
            size="tall"
            onClick={onNext}
          >
            Next: {next.title} <kbd className="text-inherit">Y</kbd>
          </Button>
        </div>
      )}
    </div>
  )
}
