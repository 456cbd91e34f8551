import { linePollsOf, serialLineOf, termContextOf, type Handshake, type Job, type LinePoll } from '@calm/core/job'
import {
  adviceFor,
  ageOf,
  characterMs,
  exchangeMs,
  frameGapMs,
  judgeFormats,
  lineSettingsText,
  loadOf,
  pollMs,
  readLineSettings,
  roundCurves,
  silentOnes,
  usualTiming,
  wireMs,
  type LineTiming,
  type SerialSettings,
} from '@calm/core/serial'
import { readQuantity } from '@calm/core/terms'
import { parseWholeNumber } from '@calm/core/units'
import { lazy, Suspense, useMemo, useState } from 'react'
import { useEdit } from '../../edit'
import { Button, Field, Problems, RefusalNote } from '../../ui'
import { Figure, roundedMs as ms } from './figure'
import { RetriesTable } from './retriesTable'

const CycleChart = lazy(() =>
  import('./cycleChartBox').then(({ CycleChartBox: Component }) => ({ default: Component })),
)

/** What nobody has measured yet, as it is usual; each can be changed to see what follows. */
const taken = {
  deviceMs: '10',
  timeoutMs: String(usualTiming.timeoutMs),
  retries: String(usualTiming.retries),
  gatewayMs: String(usualTiming.gatewayMs),
  silent: '1',
}
type Taken = typeof taken

const limits: Readonly<Record<keyof Taken, { readonly name: string; readonly min: number; readonly max: number }>> = {
  deviceMs: { name: 'Device answers after', min: 0, max: 60_000 },
  timeoutMs: { name: 'Timeout', min: 1, max: 60_000 },
  retries: { name: 'Tries after the first', min: 0, max: 10 },
  gatewayMs: { name: 'Gateway takes', min: 0, max: 10_000 },
  silent: { name: 'Units silent', min: 0, max: 247 },
}
const units: Readonly<Record<keyof Taken, string>> = {
  deviceMs: ', ms',
  timeoutMs: ', ms',
  retries: '',
  gatewayMs: ', ms',
  silent: '',
}

/** Beside the clasp of a device on a serial line: what the line costs in time, as the terms stand. */
export function LinePanel({ job, handshake }: { readonly job: Job; readonly handshake: Handshake }) {
  const line = serialLineOf(job, handshake)
  const edits = useEdit(job)
  const text = line?.settings ?? ''
  const settings = useMemo(() => readLineSettings(text), [text])
  if (!line) return null
  const offered = (settings: string) =>
    edits.attempt(edits.set(`Settings of ${line.name} changed.`, 'line', line, { settings }))
  return (
    <section className="mx-5 mb-4 border-t border-rule pt-3" aria-label="On the line">
      <h2 className="mb-1 text-lead font-heavy">
        On the line {line.name}: <span className="font-typed font-medium">{line.settings || 'no settings yet'}</span>
      </h2>
      {settings.ok ? (
        <Figures job={job} handshake={handshake} settings={settings.value} />
      ) : (
        <RefusalNote id="line-settings" refusal={settings.refusal} onOffer={offered} />
      )}
    </section>
  )
}

function Figures({ job, handshake, settings }: { job: Job; handshake: Handshake; settings: SerialSettings }) {
  const line = serialLineOf(job, handshake)
  const said = useMemo(() => saidTiming(job, handshake), [job, handshake])
  const [typedByHand, setTyped] = useState<Partial<Taken>>({})
  // What is said at the terms counts; what is typed here only shows what would follow.
  const typed: Taken = { ...taken, ...said, ...typedByHand }
  // What cannot be read changes no figure: the last that could be read counts.
  const [readableByHand, setReadable] = useState<Partial<Taken>>({})
  const readable: Taken = { ...taken, ...said, ...readableByHand }
  const read = (key: keyof Taken, text: string) => parseWholeNumber(text, limits[key])
  const valueOf = (key: keyof Taken) => Number(readable[key])
  const type = (key: keyof Taken, text: string) => {
    setTyped((before) => ({ ...before, [key]: text }))
    if (read(key, text).ok) setReadable((before) => ({ ...before, [key]: text.trim() }))
  }
  const edits = useEdit(job)
  const kept = KEPT.filter((key) => line && readableByHand[key] !== undefined && Number(readable[key]) !== line[key])
  const keep = () => {
    if (!line) return
    const fields = Object.fromEntries(kept.map((key) => [key, Number(readable[key])]))
    edits.attempt(edits.set(`Times of ${line.name} kept.`, 'line', line, fields))
  }
  const deviceMs = valueOf('deviceMs')
  const counted = useMemo(() => line && linePollsOf(job, line, deviceMs), [job, line, deviceMs])
  const [timeoutMs, retries, gatewayMs] = [valueOf('timeoutMs'), valueOf('retries'), valueOf('gatewayMs')]
  const timing = useMemo(
    (): LineTiming => ({ ...usualTiming, settings, timeoutMs, retries, gatewayMs }),
    [settings, timeoutMs, retries, gatewayMs],
  )
  if (!counted) return null
  const { polls, notCounted } = counted
  const silent = Math.min(valueOf('silent'), polls.length)
  const all = loadOf(timing, polls).roundMs
  const worst = loadOf(timing, silentOnes(timing, polls, silent)).roundMs
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,480px)] gap-6 max-desk:grid-cols-1">
      <div>
        {judgeFormats(settings, settings, 'rtu').map(({ id, verdict, say, why }) => (
          <p key={id} className="mb-1.5">
            <b className={verdict === 'never' ? 'text-odds' : ''}>{say}</b> {why}
          </p>
        ))}
        <dl className="grid grid-cols-[132px_1fr] gap-x-4 gap-y-0.5">
          <Figure
            name="One character"
            value={`${ms(characterMs(settings))}; a frame ends after ${ms(frameGapMs(settings))} of silence`}
          />
          {polls
            .filter(({ handshakeId }) => handshakeId === handshake.id)
            .map((poll) => (
              <OwnPoll key={poll.name} timing={timing} polls={polls} poll={poll} />
            ))}
          {all !== undefined && (
            <Figure
              name={`Round of ${polls.length} request${polls.length === 1 ? '' : 's'}`}
              value={`${ms(all)} while all answer${worst !== undefined && silent > 0 ? `; ${ms(worst)} while ${silent} ${silent === 1 ? 'is' : 'are'} silent` : ''}`}
            />
          )}
          {polls.length > 0 && <Advice timing={timing} polls={polls} silent={silent} />}
        </dl>
        {notCounted.length > 0 && (
          <p className="mt-1.5 note">
            Not counted: {notCounted.map(({ tag, what }) => `${tag} (${what.replace(/\.$/, '')})`).join(', ')}.
          </p>
        )}
        <div className="mt-2.5 grid grid-cols-5 items-end gap-3 max-phone:grid-cols-2">
          {(Object.keys(taken) as (keyof Taken)[]).map((key) => {
            const value = read(key, typed[key])
            return (
              <Field
                key={key}
                label={`${limits[key].name}${units[key]}`}
                typed
                inputMode="numeric"
                value={typed[key]}
                trouble={value.ok ? undefined : value.refusal}
                onChange={(text) => type(key, text)}
              />
            )
          })}
        </div>
        <p className="mt-1.5 note">
          {Object.keys(said).length === 0
            ? 'These are taken as usual, not measured: change one to see what follows.'
            : `${Object.keys(said)
                .map((key) => limits[key as keyof Taken].name)
                .join(' and ')} as the line and the terms say; the others are taken as usual.`}{' '}
          One question after the other, as often as the line and the poll intervals allow.
        </p>
        {kept.length > 0 && (
          <Button className="mt-1.5" onClick={keep}>
            Keep at the line: {kept.map((key) => limits[key].name).join(', ')}
          </Button>
        )}
        <Problems reason={edits.problem} />
        <RetriesTable
          timing={timing}
          polls={polls}
          poll={polls.find(({ handshakeId }) => handshakeId === handshake.id)}
          silent={silent}
        />
      </div>
      {all !== undefined && (
        <Suspense fallback={<div className="h-64" />}>
          <CycleChart
            curves={roundCurves(timing, polls, [...new Set([0, silent, Math.min(2 * silent, polls.length)])])}
            here={{ rate: settings.baudRate, ms: all }}
          />
        </Suspense>
      )}
    </div>
  )
}

/** What is kept with the line: the rest is a device's, or a question of "what if". */
const KEPT = ['timeoutMs', 'retries', 'gatewayMs'] as const

/** Timeout and retries as the line says them, else as they are said at the controller's end. */
function saidTiming(job: Job, handshake: Handshake): Partial<Taken> {
  const line = serialLineOf(job, handshake)
  const ofLine = KEPT.flatMap((key) => (line?.[key] == null ? [] : [[key, String(line[key])]]))
  const { terms } = termContextOf(job, handshake)
  const wholeAt = (id: 'timeout' | 'retries') => {
    const entry = terms[id]?.controller
    const read =
      entry &&
      readQuantity(entry.text, {
        name: id,
        unit: id === 'timeout' ? 'ms' : '',
        units: { s: 1000 },
        least: 0,
        most: 60_000,
      })
    return read?.ok ? String(Math.round(read.value)) : undefined
  }
  const [timeoutMs, retries] = [wholeAt('timeout'), wholeAt('retries')]
  return {
    ...(timeoutMs !== undefined && { timeoutMs }),
    ...(retries !== undefined && { retries }),
    ...(Object.fromEntries(ofLine) as Partial<Taken>),
  }
}

function OwnPoll({ timing, polls, poll }: { timing: LineTiming; polls: readonly LinePoll[]; poll: LinePoll }) {
  const age = ageOf(timing, polls, poll)
  const bytes = poll.bytes.request + poll.bytes.answer
  return (
    <>
      <Figure
        name="Its request"
        value={`${poll.asks}: ${poll.bytes.request} bytes asked, ${poll.bytes.answer} answered: ${ms(wireMs(timing.settings, bytes))} on the wire, ${ms(exchangeMs(timing, poll))} with the device and the silences`}
      />
      {age && (
        <Figure
          name="Age of its value"
          value={`${ms(age.best)} when it comes, ${ms(age.typical)} on the mean, ${ms(age.worst)} before the next`}
        />
      )}
    </>
  )
}

/** How long a round may take before people call the line slow. An assumption, said where it is used. */
const WANTED_MS = 1_000

function Advice({ timing, polls, silent }: { timing: LineTiming; polls: readonly LinePoll[]; silent: number }) {
  const { leastTimeoutMs, mostTimeoutMs, lowestRate } = adviceFor(timing, polls, WANTED_MS, silent)
  const slowest = Math.max(...polls.map((poll) => pollMs(timing, poll)))
  return (
    <>
      <Figure
        name="Timeout"
        value={`at least ${leastTimeoutMs} ms, twice the longest answer; ${
          mostTimeoutMs === undefined
            ? `no such timeout brings a round within 1 s with ${silent} silent`
            : `at most ${mostTimeoutMs} ms for a round within 1 s with ${silent} silent`
        }; the longest request takes ${ms(slowest)}`}
      />
      <Figure
        name="Lowest rate"
        value={
          lowestRate === undefined
            ? 'no usual rate brings a round within 1 s'
            : `${lineSettingsText({ ...timing.settings, baudRate: lowestRate })} for a round within 1 s`
        }
      />
    </>
  )
}
