import { isSettled, type Stop, type WalkStep } from '@calm/core/procedure'
import { Button, cn, Glyph, Problems } from '../../../ui'
import type { ViewProps } from '../viewProps'

/** So many settled steps are folded, all but the last few. */
const MANY_BEHIND = 10
const STILL_SHOWN = 3

/** All steps of a stop, with those of the sheet to be ticked at once. */
export function StepList({
  stop,
  current,
  acts,
}: {
  stop: Stop
  current: WalkStep | undefined
  acts: ViewProps['acts']
}) {
  const open = stop.steps.filter((step) => !isSettled(step))
  const sheet = open.filter((step) => step.step.kind === 'prepare' && !step.blocks)
  const free = open.filter((step) => !step.blocks && ['prepare', 'do', 'set', 'turn'].includes(step.step.kind))
  const tick = (steps: readonly WalkStep[], note: string) =>
    void acts.stretch({ stepKeys: steps.map((step) => step.key), state: 'done', note }).catch(() => undefined)
  const protectedFirst = open.find((step) => step.blocks)
  const before = (steps: readonly WalkStep[]) =>
    steps.filter((step) => !protectedFirst || stop.steps.indexOf(step) < stop.steps.indexOf(protectedFirst))
  // What went wrong with the step in hand stands at that step.
  const reopening = stop.steps.flatMap((step) => (step === current ? [] : (acts.of(step.key).problem ?? [])))[0]
  const sheetNow = before(sheet)
  const freeNow = before(free)
  // Of a long run the steps ahead matter, not the many behind.
  const settledFirst = stop.steps.findIndex((step) => !isSettled(step))
  const behind = settledFirst < 0 ? stop.steps.length : settledFirst
  const cut = behind > MANY_BEHIND ? behind - STILL_SHOWN : 0
  const [folded, shown] = [stop.steps.slice(0, cut), stop.steps.slice(cut)]
  const line = (step: WalkStep) => (
    <li key={step.key} className={cn('flex items-start gap-2 py-1 text-row', step === current && 'font-heavy')}>
      <span className="mt-0.75">
        <Glyph state={glyphOf(step, step === current)} size={15} />
      </span>
      <span className="flex-1">
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
        <Button className="min-h-6" look="plain" onClick={() => void acts.reopen(step.key).catch(() => undefined)}>
          Take back
        </Button>
      )}
    </li>
  )
  return (
    <section className="mt-5.5 border-t border-rule pt-2" aria-label="Steps of this stop">
      {folded.length > 0 && (
        <details>
          <summary className="cursor-pointer py-1 text-row text-ink-soft">
            {folded.length} earlier steps, settled
          </summary>
          <ol>{folded.map(line)}</ol>
        </details>
      )}
      <ol>{shown.map(line)}</ol>
      <Problems reason={acts.of('stretch').problem ?? reopening} />
      <div className="mt-2.5 flex flex-wrap items-center gap-2.5">
        {!stop.held && sheetNow.length > 1 && (
          <Button onClick={() => tick(sheetNow, 'All as drawn.')}>All as drawn ({sheetNow.length})</Button>
        )}
        {!stop.held && freeNow.length > 1 && freeNow.length > sheetNow.length && (
          <Button onClick={() => tick(freeNow, 'Already done.')}>Already done ({freeNow.length})</Button>
        )}
      </div>
    </section>
  )
}

function glyphOf(step: WalkStep, current: boolean): React.ComponentProps<typeof Glyph>['state'] {
  switch (step.record?.state) {
    case 'done':
      return 'proven'
    // Settled by a reason: nobody looked.
    case 'overridden':
    case 'parked':
      return 'parked'
    case 'waiting':
      return 'waiting'
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
