import type { Job } from '@calm/core/job'
import { formatIpv4, formatSubnet, subnetOf } from '@calm/core/address'
import { lampWords } from '@calm/core/kind'
import {
  laptopIsIn,
  portOf,
  presentOf,
  recordIds,
  stepKinds,
  type Cause,
  type LaptopState,
  type Stop,
  type WalkRecord,
  type WalkStep,
} from '@calm/core/procedure'
import { useEffect, useRef, useState } from 'react'
import type { CheckAnswer } from '@calm/contract/api'
import type { WalkActs } from '../../../api'
import { clockText, useNow, usePageKeys } from '../../../shell'
import { Button, Caution, cn, Field, Glyph, Problems, Radios } from '../../../ui'
import { Causes } from './causes'
import { CopyLine, LaptopPanel } from './laptopPanel'
import { LampDrawings } from './lampDrawing'
import { ReasonForm } from './reasonForm'

interface StepCardProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly stop: Stop
  readonly step: WalkStep
  readonly laptop: LaptopState | undefined
  readonly acts: WalkActs
}

/** Green is only what was compared. */
const answerGlyph = { passed: 'proven', failed: 'at-odds', 'not-conclusive': 'waiting' } as const

type Asking = 'none' | 'override' | 'park' | 'else'

/** The step in hand: what to do, what to type, what to expect, and the buttons that settle it. */
export function StepCard({ job, record, stop, step, laptop, acts }: StepCardProps) {
  const [note, setNote] = useState('')
  const [asking, setAsking] = useState<Asking>('none')
  const [answer, setAnswer] = useState<CheckAnswer | undefined>(undefined)
  const [causes, setCauses] = useState<readonly Cause[] | undefined>(undefined)
  const noteField = useRef<HTMLInputElement>(null)
  const { kind } = step.step
  const noteLabel = step.step.record ? recordIds[step.step.record] : 'What was seen'
  const seen = step.record?.version ?? 0
  const device = job.devices.find((each) => each.id === step.deviceId)

  // What was typed belongs to one step; the next one starts blank.
  useEffect(() => {
    setNote('')
    setAsking('none')
    setAnswer(undefined)
    setCauses(undefined)
  }, [step.key])

  const say = (state: 'done' | 'overridden' | 'parked' | 'unexpected', text: string) =>
    acts.settle({ stepKey: step.key, state, note: text, seen }).catch(() => undefined)
  const check = async () => {
    const result = await acts.check(step.key).catch(() => undefined)
    setAnswer(result)
    if (!result || result.verdict === 'passed' || !device) return
    const address =
      step.step.check === 'reached-planned' ? portOf(device)?.address : textOf(presentOf(job, record, device))
    if (address && /^reached/.test(step.step.check ?? ''))
      setCauses(await acts.whyNothing(address, portOf(device)?.tcpPort ?? 502, device.id).catch(() => undefined))
  }
  const { busy, problem } = acts.of(step.key)
  const mayYes = asking === 'none' && !busy && step.record?.state !== 'waiting'
  const yes = () => {
    if (!mayYes) return
    if (kind === 'check') void check()
    else if (kind === 'wait') void acts.wait(step.key).catch(() => undefined)
    else if (kind === 'record' || kind === 'decide') void say('done', note)
    else void say('done', '')
  }
  const mayNo = asking === 'none' && kind !== 'caution' && !busy
  const no = () => setAsking(kind === 'expect' || step.step.otherwise ? 'else' : 'override')
  // The laptop is seen by itself: nobody ticks what the program can see.
  const cidr = laptopSubnet(job, record, stop, step)
  const isThere = cidr !== undefined && laptop !== undefined && laptopIsIn(laptop, cidr)
  const ticked = useRef('')
  useEffect(() => {
    if (!isThere || ticked.current === step.key || step.record) return
    ticked.current = step.key
    if (kind === 'check') void acts.check(step.key, false).catch(() => undefined)
    else void acts.settle({ stepKey: step.key, state: 'done', note: 'Seen by itself.', seen: 0 }).catch(() => undefined)
  }, [isThere, step, kind, acts])
  const copy = () => void navigator.clipboard?.writeText((step.step.type ?? []).join('\n')).catch(() => undefined)
  // A key does what its button would do now, or nothing.
  usePageKeys({
    Y: yes,
    N: () => mayNo && no(),
    P: () => asking === 'none' && setAsking('park'),
    C: () => step.step.type && copy(),
    R: () => noteField.current?.focus(),
  })

  return (
    <section className="mt-3.5 grid gap-3 border-t border-rule pt-3.5" aria-label="The step in hand">
      <p className="note">
        {stepKinds[kind]}
        {device ? `, ${device.tag}` : ''}
        {step.step.protects ? `; protects ${step.step.protects}` : ''}
      </p>
      {kind === 'caution' ? (
        <Caution large>{step.step.say}</Caution>
      ) : (
        <h2 className="max-w-[34em] text-title leading-snug font-firm max-phone:text-title">{step.step.say}</h2>
      )}
      {step.step.why && <p className="max-w-[60ch] text-ink-soft">{step.step.why}</p>}
      {step.step.type && (
        <div className="flex flex-wrap gap-x-4 gap-y-2">
          {step.step.type.map((text, index) =>
            // What is set digit by digit at a keypad is read, not copied.
            text.length <= 3 ? (
              <code
                key={`${text}${index}`}
                className="rounded-sm bg-ground px-3.5 py-1 font-typed text-[34px] font-heavy"
              >
                {text}
              </code>
            ) : (
              <CopyLine key={`${text}${index}`} text={text} />
            ),
          )}
        </div>
      )}
      {stop.laptop && kind === 'set' && <LaptopPanel to={stop.laptop} laptop={laptop} bench={job.mode === 'bench'} />}
      {step.step.lamps && <LampDrawings lamps={step.step.lamps.filter((lamp) => !lamp.trouble)} />}
      {step.step.normal && (
        <div>
          <p className="note">Normal meanwhile</p>
          <ul className="list-disc pl-4.5">
            {step.step.normal.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </div>
      )}
      {step.record?.state === 'waiting' && <Countdown step={step} />}
      {step.record?.state === 'unexpected' && (
        <p className="flex items-center gap-2 text-lead text-odds">
          <Glyph state="at-odds" size={18} /> {step.record.note}
        </p>
      )}
      {answer && (
        <p
          className={cn('flex items-center gap-2 text-lead', answer.verdict === 'failed' && 'text-odds')}
          role="status"
          data-verdict={answer.verdict}
        >
          <Glyph state={answerGlyph[answer.verdict]} size={18} />{' '}
          {answer.verdict === 'not-conclusive' && 'Not conclusive.'} {answer.say}
        </p>
      )}
      {causes && <Causes causes={causes} />}
      {kind === 'record' && (
        <Field
          ref={noteField}
          className="max-w-105"
          label={noteLabel}
          typed
          size="tall"
          value={note}
          onChange={setNote}
          onKeyDown={(event) => {
            if (event.key === 'Enter') yes()
            if (event.key === 'Escape') event.currentTarget.blur()
          }}
        />
      )}
      {kind === 'decide' && (
        <Radios
          hideLabel
          large
          label={step.step.say}
          value={note}
          choices={(step.step.choices ?? []).map((choice) => ({
            value: choice.say,
            label: choice.say,
            say: choice.then,
          }))}
          onChange={setNote}
        />
      )}
      <Problems reason={problem} />
      {asking === 'none' ? (
        <div className="flex flex-wrap items-center gap-2.5">
          <Button
            className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
            look="act"
            size="tall"
            disabled={!mayYes}
            onClick={yes}
          >
            {yesWords(step)} <kbd className="text-inherit">Y</kbd>
          </Button>
          {kind !== 'caution' && (
            <Button
              className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
              size="tall"
              disabled={busy}
              onClick={no}
            >
              {step.step.otherwise || kind === 'expect' ? 'I see something else' : 'I don’t'} <kbd>N</kbd>
            </Button>
          )}
          {(kind === 'wait' || step.record?.state === 'unexpected') && (
            <Button
              className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
              size="tall"
              onClick={() => setAsking('override')}
            >
              Settle by hand
            </Button>
          )}
          {kind === 'caution' && (
            <Button look="plain" onClick={() => setAsking('override')}>
              Go on without
            </Button>
          )}
          <Button look="plain" onClick={() => setAsking('park')}>
            Park
          </Button>
        </div>
      ) : asking === 'else' ? (
        <ReasonForm
          title="What do you see?"
          offers={[...(step.step.otherwise ?? []), ...otherLamps(step)]}
          action="Record what I see"
          onSay={(text) => void say('unexpected', text).then(() => setAsking('none'))}
          onClose={() => setAsking('none')}
        />
      ) : (
        <ReasonForm
          title={asking === 'park' ? 'Why is it parked?' : 'Why is it settled without this?'}
          action={asking === 'park' ? 'Park it' : 'Override'}
          onSay={(text) => void say(asking === 'park' ? 'parked' : 'overridden', text).then(() => setAsking('none'))}
          onClose={() => setAsking('none')}
        />
      )}
    </section>
  )
}

/** The subnet that a step waits for the laptop to be in; `undefined` for any other step. */
function laptopSubnet(job: Job, record: WalkRecord, stop: Stop, { step, deviceId }: WalkStep): string | undefined {
  const device = job.devices.find((each) => each.id === deviceId)
  const waits = step.check === 'laptop-in-subnet' || (stop.laptop !== null && step.id === 'set')
  const where = waits ? (stop.laptop ?? (device && presentOf(job, record, device))) : undefined
  return where ? formatSubnet(subnetOf(where.address, where.prefix)) : undefined
}

const textOf = (of: ReturnType<typeof presentOf>) => (of ? formatIpv4(of.address) : undefined)

/** Where the run names no causes, those of the kind: the lamps that tell of trouble come first. */
const otherLamps = ({ step }: WalkStep) =>
  [...(step.lamps ?? [])]
    .filter((lamp) => lamp.trouble)
    .map(({ lamp, pattern, means }) => ({ saw: `${lamp} ${lampWords(pattern)}`, likely: means, check: '' }))

function yesWords({ step, record }: WalkStep): string {
  switch (step.kind) {
    case 'caution':
      return 'I have read it'
    case 'wait':
      return record?.state === 'waiting' ? 'Waiting' : 'Begin to wait'
    case 'check':
      return 'Check now'
    case 'record':
      return 'Record'
    case 'decide':
      return 'That it is'
    case 'expect':
      return 'I see it'
    default:
      return 'Done'
  }
}

/** The time that is left, large; it runs on the server and rings by itself. */
function Countdown({ step }: { step: WalkStep }) {
  const wait = step.record?.wait
  const now = useNow(true)
  if (!wait) return null
  const left = wait.seconds - (now - wait.startedAt) / 1000
  const address = wait.watch === 'back-at-planned' ? wait.newAddress : wait.oldAddress
  return (
    <div role="timer" aria-label="Time left">
      <b className="font-text text-clock leading-tight font-heavy tabular-nums">
        {left >= 0 ? clockText(left) : `+${clockText(-left)}`}
      </b>
      <p>
        {wait.watch && address
          ? `${address} is looked at by itself${left < 0 ? `; ${wait.triesAfter} tries since the time was over` : ''}.`
          : 'It rings when the time is over.'}
      </p>
    </div>
  )
}
