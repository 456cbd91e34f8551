import { isSettled, type Stop, type WalkStep } from '@calm/core/procedure'
import { Smartphone } from 'lucide-react'
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { usePageKeys } from '../../shell'
import { Glyph, Problems } from '../../ui'
import { DeviceFacts } from './deviceFacts'
import { HeldStop } from './heldStop'
import { LaptopList } from './laptopPanel'
import { LeftOutNotes } from './leftOutNotes'
import { StepCard } from './stepCard'
import { StopList } from './stopList'
import { currentStep, currentStop } from './useFirstContact'
import type { ViewProps } from './viewProps'

const PhoneDialog = lazy(() => import('./phoneDialog').then(({ PhoneDialog: Component }) => ({ default: Component })))

/** The walk: stops at the left, the step in hand in the middle, what is known of the device at the right. */
export function WalkView({ job, record, contact, acts, laptop }: ViewProps) {
  const [search, setSearch] = useSearchParams()
  const [phone, setPhone] = useState(false)
  const { stops, begun, plan, planning } = contact
  const chosen = stops.find((stop) => stop.key === search.get('stop'))
  const stop = chosen ?? currentStop(stops)
  const step = currentStep(stop)
  const leftOut = plan?.leftOut ?? []
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
      <div className="fc-begin">
        <LeftOutNotes job={job} leftOut={leftOut} />
        {plan && 'tooLarge' in plan ? (
          <p>The order of so many devices was not found. Leave some out under Order, and walk the others first.</p>
        ) : (
          <>
            <p className="lead">
              {planning
                ? 'Working out the order…'
                : `${stops.length} stops. ${stops[0] ? `First: ${stops[0].title}.` : ''}`}
            </p>
            <button
              type="button"
              className="act tall"
              disabled={planning || contact.next.length === 0}
              onClick={() => void acts.saveOrder(record.version, contact.next).catch(() => undefined)}
            >
              Begin the walk
            </button>
          </>
        )}
        <Problems reason={acts.of('order').problem} />
        <StopList stops={stops} chosen={undefined} onChoose={() => undefined} />
      </div>
    )
  }
  return (
    <div className="fc-walk">
      <div className="fc-stops">
        {contact.differs && (
          <div className="fc-differs">
            <p>The job changed: the rest of the order is another one.</p>
            <button
              type="button"
              className="quiet"
              onClick={() => void acts.saveOrder(record.version, contact.next).catch(() => undefined)}
            >
              Plan again
            </button>
          </div>
        )}
        <LeftOutNotes job={job} leftOut={leftOut} folded />
        <StopList stops={stops} chosen={stop?.key} onChoose={choose} />
        <p className="fc-leave">
          <button type="button" className="plain" onClick={() => setPhone(true)}>
            <Smartphone size={15} aria-hidden /> On the phone
          </button>
        </p>
        {phone && (
          <Suspense>
            <PhoneDialog onClose={() => setPhone(false)} />
          </Suspense>
        )}
      </div>
      <div className="fc-step" ref={pane}>
        {stop ? (
          <>
            <header>
              <p className="note">
                Stop {stops.indexOf(stop) + 1} of {stops.length}
              </p>
              <h2 className="stop-title">{stop.title}</h2>
              {!stop.held && <p className="step-why">{stop.reason}</p>}
            </header>
            {stop.held && stop.state !== 'settled' ? (
              <HeldStop job={job} held={stop.held} acts={acts} />
            ) : step ? (
              <StepCard job={job} record={record} stop={stop} step={step} laptop={laptop} acts={acts} />
            ) : (
              <SettledStop next={currentStop(stops)} onNext={() => setSearch({}, { replace: true })} />
            )}
            <StepList stop={stop} current={step} acts={acts} />
          </>
        ) : (
          <p className="step-fine">
            <Glyph state="proven" size={20} /> Every stop is settled.
          </p>
        )}
      </div>
      <aside className="fc-side">
        {stop?.deviceIds.map((id) => (
          <DeviceFacts key={id} job={job} record={record} deviceId={id} acts={acts} />
        ))}
        <LaptopList laptop={laptop} />
      </aside>
    </div>
  )
}

/** A stop that is over, and the way to the one that is due. */
function SettledStop({ next, onNext }: { next: Stop | undefined; onNext: () => void }) {
  const keys = useMemo(() => ({ Y: onNext }), [onNext])
  usePageKeys(keys)
  return (
    <div className="step">
      <p className="step-fine">
        <Glyph state="proven" size={18} /> This stop is settled.
      </p>
      {next && (
        <div className="step-acts">
          <button type="button" className="act tall" onClick={onNext}>
            Next: {next.title} <kbd>Y</kbd>
          </button>
        </div>
      )}
    </div>
  )
}

/** All steps of a stop, with those of the sheet to be ticked at once. */
function StepList({ stop, current, acts }: { stop: Stop; current: WalkStep | undefined; acts: ViewProps['acts'] }) {
  const open = stop.steps.filter((step) => !isSettled(step))
  const sheet = open.filter((step) => step.step.kind === 'prepare' && !step.blocks)
  const free = open.filter((step) => !step.blocks && !['check', 'wait', 'record', 'decide'].includes(step.step.kind))
  const tick = (steps: readonly WalkStep[], note: string) =>
    void acts.stretch({ stepKeys: steps.map((step) => step.key), state: 'done', note }).catch(() => undefined)
  const protectedFirst = open.find((step) => step.blocks)
  const before = (steps: readonly WalkStep[]) =>
    steps.filter((step) => !protectedFirst || stop.steps.indexOf(step) < stop.steps.indexOf(protectedFirst))
  // What went wrong with the step in hand stands at that step.
  const reopening = stop.steps.flatMap((step) => (step === current ? [] : (acts.of(step.key).problem ?? [])))[0]
  const sheetNow = before(sheet)
  const freeNow = before(free)
  return (
    <section className="fc-steps" aria-label="Steps of this stop">
      <ol>
        {stop.steps.map((step) => (
          <li key={step.key} className={step === current ? 'current' : ''}>
            <Glyph state={glyphOf(step, step === current)} size={15} />
            <span>
              {step.step.say}
              {step.record && (
                <span className="note">
                  {' '}
                  {wordOf(step)}
                  {step.record.note ? `: ${step.record.note}` : ''} ({step.record.who})
                </span>
              )}
            </span>
            {step.record && step.record.state !== 'waiting' && (
              <button type="button" className="plain" onClick={() => void acts.reopen(step.key).catch(() => undefined)}>
                Take back
              </button>
            )}
          </li>
        ))}
      </ol>
      <Problems reason={acts.of('stretch').problem ?? reopening} />
      <div className="step-acts">
        {!stop.held && sheetNow.length > 1 && (
          <button type="button" className="quiet" onClick={() => tick(sheetNow, 'All as drawn.')}>
            All as drawn ({sheetNow.length})
          </button>
        )}
        {!stop.held && freeNow.length > 1 && freeNow.length > sheetNow.length && (
          <button type="button" className="quiet" onClick={() => tick(freeNow, 'Already done.')}>
            Already done ({freeNow.length})
          </button>
        )}
      </div>
    </section>
  )
}

function glyphOf(step: WalkStep, current: boolean): React.ComponentProps<typeof Glyph>['state'] {
  switch (step.record?.state) {
    case 'done':
    case 'overridden':
      return 'proven'
    case 'waiting':
      return 'waiting'
    case 'parked':
      return 'parked'
    case 'unexpected':
      return 'at-odds'
    default:
      return current ? 'in-hand' : 'not-started'
  }
}

const wordOf = (step: WalkStep): string =>
  ({ done: 'done', overridden: 'overridden', waiting: 'waiting', parked: 'parked', unexpected: 'something else' })[
    step.record?.state ?? 'done'
  ]
