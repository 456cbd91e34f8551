import { knownFor, portOf, presentOf, recordIds, stepKinds, type Cause, type WalkStep } from '@calm/core/procedure'
import { labelFields } from '@calm/core/label'
import { useEffect, useRef, useState, type MouseEvent } from 'react'
import type { CheckAnswer } from '@calm/contract/api'
import { usePageKeys } from '../../../shell'
import { Button, Caution, cn, Field, Glyph, Problems, Radios } from '../../../ui'
import { Causes } from './causes'
import { Countdown } from './countdown'
import { CopyLine, LaptopPanel } from './laptopPanel'
import { LabelPhoto } from './labelPhoto'
import { LampDrawings } from './lampDrawing'
import { ListedTable } from './listedTable'
import { MenuStep } from './menuAnswers'
import { RackTable } from './rackTable'
import { ReasonForm } from './reasonForm'
import { alikeFrom, textOf, type StepInHand } from './stepAround'
import { otherLamps, yesWords } from './stepWords'
import { takeLabel } from './takeLabel'
import { TurnTable } from './turnTable'
import { LOOKS, useSeenByItself } from './useSeenByItself'

/** Green is only what was compared. */
const answerGlyph = { passed: 'proven', failed: 'at-odds', 'not-conclusive': 'waiting' } as const

/** The second press of a double click would land on the step that comes next, which nobody has read yet. */
const once = (act: () => void) => (event: MouseEvent) => {
  if (event.detail < 2) act()
}

type Asking = 'none' | 'override' | 'park' | 'else'

/** The step in hand: what to do, what to type, what to expect, and the buttons that settle it. */
export function StepCard({ job, record, stop, step, isDue, laptop, acts }: StepInHand) {
  // By step: what was typed of one says nothing of another.
  const [notes, setNotes] = useState<Readonly<Record<string, string>>>({})
  const setText = (key: string, text: string) => setNotes((before) => ({ ...before, [key]: text }))
  const [asking, setAsking] = useState<Asking>('none')
  const [answer, setAnswer] = useState<CheckAnswer | undefined>(undefined)
  const [causes, setCauses] = useState<readonly Cause[] | undefined>(undefined)
  const noteField = useRef<HTMLInputElement>(null)
  const { kind } = step.step
  const seen = step.record?.version ?? 0
  const device = job.devices.find((each) => each.id === step.deviceId)
  // What was read anywhere stands there already; whoever sees something else types over it.
  const typed = (each: WalkStep) =>
    notes[each.key] ?? (device && each.step.record ? knownFor(record, device, each.step.record) : '')
  const note = typed(step)
  const about = job.devices.filter((each) => step.deviceIds.includes(each.id))

  // What was asked and found belongs to one step; the next one starts blank.
  useEffect(() => {
    setAsking('none')
    setAnswer(undefined)
    setCauses(undefined)
  }, [step.key])

  const say = (state: 'done' | 'overridden' | 'parked' | 'unexpected', text: string) =>
    acts.settle({ stepKey: step.key, state, note: text.trim(), seen }).catch(() => undefined)
  const check = async (tellsWhy = true) => {
    const result = await acts.check(step.key).catch(() => undefined)
    setAnswer(result)
    if (!result || result.verdict === 'passed' || !device || !tellsWhy) return result
    const address =
      step.step.check === 'reached-planned' ? portOf(device)?.address : textOf(presentOf(job, record, device))
    if (address && /^reached/.test(step.step.check ?? ''))
      setCauses(await acts.whyNothing(address, portOf(device)?.tcpPort ?? 502, device.id).catch(() => undefined))
    return result
  }
  // Cautions that stand together are read together, labels that hang together are written down together.
  const together = kind === 'caution' || kind === 'record' ? alikeFrom(stop, step) : [step]
  const sayAll = async () => {
    const filled = together.filter((each) => kind === 'caution' || typed(each).trim() !== '')
    for (const each of filled.length > 0 ? filled : [step])
      await acts.settle({
        stepKey: each.key,
        state: 'done',
        note: kind === 'record' ? typed(each).trim() : '',
        seen: each.record?.version ?? 0,
      })
  }
  const labelled = kind === 'record' && step.step.record && step.step.record in labelFields ? device : undefined
  const { busy, problem } = acts.of(step.key)
  const mayYes = asking === 'none' && !busy && step.record?.state !== 'waiting'
  const yes = () => {
    if (!mayYes) return
    if (kind === 'check') void check()
    else if (kind === 'wait') void acts.wait(step.key).catch(() => undefined)
    else if (kind === 'record' || kind === 'caution') void sayAll().catch(() => undefined)
    else if (kind === 'decide') void say('done', note)
    else void say('done', '')
  }
  const mayNo = asking === 'none' && kind !== 'caution' && !busy
  const no = () => setAsking(kind === 'expect' || step.step.otherwise ? 'else' : 'override')
  const { looks, looksAgain } = useSeenByItself({ job, record, stop, step, isDue, laptop, acts, check })
  const into = step.laptop ?? stop.laptop
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
        {about.length > 0
          ? `, ${about.length > 4 ? `${about.length} devices` : about.map(({ tag }) => tag).join(', ')}`
          : ''}
        {step.step.protects ? `; protects ${step.step.protects}` : ''}
      </p>
      {kind === 'caution' ? (
        together.map((each) => (
          <Caution key={each.key} large>
            {each.step.say}
          </Caution>
        ))
      ) : (
        <h2 className="max-w-[34em] text-title leading-snug font-firm max-phone:text-title">{step.step.say}</h2>
      )}
      {step.step.why && <p className="max-w-[60ch] text-ink-soft">{step.step.why}</p>}
      {step.step.check === 'rack-codes' && device && <RackTable job={job} record={record} head={device} acts={acts} />}
      {(step.step.check === 'nodes-listed' || step.step.check === 'controller-sees') && (
        <ListedTable
          key={step.key}
          job={job}
          record={record}
          stop={stop}
          step={step}
          acts={acts}
          onCheck={() => check()}
        />
      )}
      {kind === 'turn' && <TurnTable job={job} stop={stop} step={step} />}
      {step.menu && <MenuStep menu={step.menu} />}
      {step.step.type && !step.menu && kind !== 'turn' && (
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
      {into && kind === 'set' && <LaptopPanel to={into} laptop={laptop} bench={job.mode === 'bench'} />}
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
      {looksAgain && looks > 0 && (
        <p className="note">
          Look {looks} of {LOOKS} found this; it is looked again by itself.
        </p>
      )}
      {causes && <Causes causes={causes} />}
      {labelled && (
        <LabelPhoto
          device={labelled}
          acts={acts}
          onTake={(values) => takeLabel(acts, stop, labelled, values, setText)}
        />
      )}
      {kind === 'record' &&
        together.map((each) => (
          <Field
            key={each.key}
            ref={each === step ? noteField : undefined}
            className="max-w-105"
            label={each.step.record ? recordIds[each.step.record] : 'What was seen'}
            typed
            size="tall"
            value={typed(each)}
            onChange={(text) => setText(each.key, text)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') yes()
              if (event.key === 'Escape') event.currentTarget.blur()
            }}
          />
        ))}
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
          onChange={(text) => setText(step.key, text)}
        />
      )}
      <Problems reason={problem} />
      {asking === 'none' ? (
        // By step: a press that was begun at one never ends at the next.
        <div key={`buttons of ${step.key}`} className="flex flex-wrap items-center gap-2.5">
          <Button
            className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
            look="act"
            size="tall"
            disabled={!mayYes}
            onClick={once(yes)}
          >
            {yesWords(step, together.length)} <kbd className="text-inherit">Y</kbd>
          </Button>
          {kind !== 'caution' && (
            <Button
              className="first:min-w-47.5 first:text-lead max-phone:min-h-13.5 max-phone:flex-[1_1_100%]"
              size="tall"
              disabled={busy}
              onClick={once(no)}
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
