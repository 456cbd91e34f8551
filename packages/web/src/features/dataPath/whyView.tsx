import { deviceOf, type Handshake, type Job, type Point } from '@calm/core/job'
import {
  expectedOf,
  foundAtController,
  isFoundAtController,
  placeBy,
  placeOf,
  questionOf,
  termsBy,
  type OtherReading,
  type PointPlace,
} from '@calm/core/points'
import { expectedAt, sayExplanation, type Question, type RankedExplanation } from '@calm/core/explain'
import { formatNumber } from '@calm/core/values'
import type { LookAround } from '@calm/contract'
import { api } from '@calm/contract/api'
import { useMutation } from '@tanstack/react-query'
import { lazy, Suspense, useMemo, useState } from 'react'
import { call, newId } from '../../api'
import type { JobEdit } from '../../edit'
import { usePageKeys } from '../../shell'
import { Button, Choice, cn, Powers, Problems } from '../../ui'
import { useExplained } from '../../workers'
import { AlongPath } from './alongPath'
import { Expected } from './expected'
import { Explanations } from './explanations'
import {
  addLook,
  aligned,
  forgetLooks,
  gatheredOf,
  removeLook,
  setExpected,
  setLook,
  useGathered,
  type Look,
} from './looks'
import type { LookOnChart } from './looksChart'
import { PasteWords } from './pasteWords'
import { WordsTable } from './wordsTable'

const LooksChartBox = lazy(() => import('./looksChartBox'))

interface WhyProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly point: Point | undefined
  readonly edit: JobEdit
  readonly onPoint: (pointId: string) => void
}

/** Why a number is wrong: looks at the registers around a point, and every reading of them that explains it. */
export function WhyView({ job, handshake, point, edit, onPoint }: WhyProps) {
  if (!point) return <p className="py-4">This handshake has no point yet: paste or add one under Points.</p>
  const place = placeOf(job, handshake, point)
  if ('missing' in place)
    return (
      <div className="grid gap-3 py-3">
        <PointChoice handshake={handshake} point={point} onPoint={onPoint} />
        <p>
          {point.quantity} has no place that could be read: {place.missing}
        </p>
      </div>
    )
  return <Why job={job} handshake={handshake} point={point} place={place} edit={edit} onPoint={onPoint} />
}

function Why({ job, handshake, point, place, edit, onPoint }: WhyProps & { point: Point; place: PointPlace }) {
  const gathered = useGathered()
  const { looks, expect = expectedOf(point) } = gathered.get(point.id) ?? gatheredOf(point.id)
  const [shown, setShown] = useState(0)
  const look = useMutation({ mutationFn: () => takeLook(handshake.id, point.id) })
  const known = handshake.points.filter((each) => gathered.get(each.id)?.expect ?? expectedOf(each))
  const lookAtAll = useMutation({
    mutationFn: async () => {
      // One after the other: a device has few connections and answers in turn.
      const silent: string[] = []
      for (const each of known) {
        const { silence } = await takeLook(handshake.id, each.id)
        if (silence !== '') silent.push(`${each.quantity}: ${silence}`)
      }
      return silent
    },
  })
  // Every point of this device about which something is known is solved along with this one.
  const together = useMemo(() => {
    const others = handshake.points.filter((each) => each.id !== point.id)
    return [point, ...others].flatMap((each): readonly { readonly point: Point; readonly question: Question }[] => {
      const own = gathered.get(each.id)
      const where = placeOf(job, handshake, each)
      const known = own?.expect ?? expectedOf(each)
      if ('missing' in where || (each.id !== point.id && (!own || own.looks.length === 0 || !known))) return []
      const { first, samples } = aligned(own?.looks ?? [])
      return [{ point: each, question: questionOf(each, where, first, samples, known) }]
    })
  }, [gathered, handshake, job, point])
  const questions = useMemo(() => together.map(({ question }) => question), [together])
  const explained = useExplained(questions)
  const own = explained?.[0]
  const question = questions[0]
  const chosen = own?.answer.explanations[shown]
  const current = looks.at(-1)
  usePageKeys({ L: () => look.mutate() })

  const accept = (each: RankedExplanation) => {
    const source = placeBy(each, place)
    if (!source || !question) return
    const say = `${point.quantity}: ${sayExplanation(question, each, point.decimals)}, taken over.`
    forgetLooks(point.id)
    setShown(0)
    edit.attempt(edit.set(say, 'point', point, { source }))
  }
  const tag = deviceOf(job, handshake.deviceId)?.tag ?? 'the device'
  // A point without a place of its own lies where the terms say: they are what was wrong.
  const asTerms = (each: RankedExplanation) =>
    point.source === null ? termsBy(handshake, each, place, `read off ${tag}`, newId) : []
  const acceptTerms = (each: RankedExplanation) => {
    if (!question) return
    const say = `Terms of ${tag}: ${sayExplanation(question, each, point.decimals)}, taken over.`
    forgetLooks(point.id)
    setShown(0)
    edit.attempt(edit.change(say, asTerms(each)))
  }
  const controller = deviceOf(job, handshake.controllerId)?.tag ?? 'the controller'
  const foundThere = (reading: OtherReading) =>
    point.source === null ? foundAtController(job, handshake, reading, place, `tag ${point.tag}`, newId) : []
  const registersOf = (shift: number, count: number) =>
    Array.from({ length: count }, (_, k) => place.address + shift + k)
  return (
    <div className="grid grid-cols-[460px_minmax(0,1fr)] gap-7 max-tablet:grid-cols-1">
      <section className="grid content-start gap-3.5" aria-label="What is known">
        <PointChoice handshake={handshake} point={point} onPoint={onPoint} />
        <Expected key={point.id} unit={point.unit} start={expect} onChange={(next) => setExpected(point.id, next)} />
        <div>
          <div className="flex flex-wrap items-center gap-2">
            <Button look="act" disabled={look.isPending} onClick={() => look.mutate()}>
              {look.isPending ? 'Reading…' : looks.length === 0 ? 'Look at its registers' : 'Look again'}
            </Button>
            {known.length > 1 && (
              <Button disabled={lookAtAll.isPending} onClick={() => lookAtAll.mutate()}>
                Look at all {known.length}
              </Button>
            )}
            <PasteWords
              from={place.address}
              onWords={(words) =>
                addLook(point.id, { at: Date.now(), ...words, origin: 'pasted', tag: undefined, screen: undefined })
              }
            />
          </div>
          <p className="mt-1 note">Reads {point.quantity} and four registers to each side. Nothing is written.</p>
          {look.data?.silence && (
            <p className="text-odds" role="status">
              {look.data.silence}
            </p>
          )}
          {lookAtAll.data?.map((silence) => (
            <p key={silence} className="text-odds">
              {silence}
            </p>
          ))}
          <Problems reason={look.error ?? lookAtAll.error} />
        </div>
        <Looks point={point} looks={looks} planned={own?.answer.search.planned ?? []} />
        {current && (
          <WordsTable
            look={current}
            planned={registersOf(0, place.size)}
            explained={chosen && chosen.aspects.length > 0 ? registersOf(chosen.shift, chosen.registers) : []}
            onWord={(at, word) =>
              setLook(point.id, looks.length - 1, {
                words: current.words.map((each, k) => (k === at ? word : each)),
                origin: 'changed by hand',
              })
            }
          />
        )}
      </section>
      <section className="grid content-start gap-4" aria-label="What explains it">
        {question && own ? (
          <Explanations
            question={question}
            explained={own}
            decimals={point.decimals}
            along={questions.length - 1}
            shown={shown}
            onShow={setShown}
            onAccept={accept}
            terms={{ tag, can: (each) => asTerms(each).length > 0, onAccept: acceptTerms }}
          />
        ) : (
          <p className="note">Comparing…</p>
        )}
        {chosen && question && looks.length > 1 && (
          <Suspense fallback={<div className="h-48" />}>
            <LooksChartBox looks={onChart(question, chosen)} unit={point.unit} />
          </Suspense>
        )}
        <AlongPath
          key={point.id}
          job={job}
          handshake={handshake}
          point={point}
          place={place}
          looks={looks}
          found={{
            can: (reading) => foundThere(reading).length > 0,
            isWritten: (reading) => isFoundAtController(job, handshake, reading, place),
            onFound: (reading, say) =>
              edit.attempt(edit.change(`As found at ${controller}: ${say}.`, foundThere(reading))),
          }}
        />
      </section>
    </div>
  )
}

/** Looks at the registers of a point once; words that came are kept, silence is told. */
async function takeLook(handshakeId: string, pointId: string): Promise<LookAround> {
  const seen = await call(api.lookAround, { id: handshakeId, pointId })
  if (seen.silence !== '') return seen
  const words = seen.words.map((word) => word ?? undefined)
  const tag = seen.controller.value ?? undefined
  addLook(pointId, { at: seen.at, first: seen.first, words, origin: `read live, ${seen.mode}`, tag, screen: undefined })
  return seen
}

/** What an explanation reads at each look, beside what was expected there. */
function onChart(question: Question, { values }: RankedExplanation): readonly LookOnChart[] {
  const [first] = question.samples
  return question.samples.flatMap((sample, k) => {
    const [value, expect] = [values[k], expectedAt(question, sample)]
    const expected = expect?.kind === 'about' ? expect.value : undefined
    return value === undefined ? [] : [{ seconds: (sample.at - (first?.at ?? 0)) / 1000, value, expected }]
  })
}

function PointChoice({ handshake, point, onPoint }: Pick<WhyProps, 'handshake' | 'onPoint'> & { point: Point }) {
  return (
    <Choice
      label="Point"
      value={point.id}
      choices={handshake.points.map(({ id, quantity }) => ({ value: id, label: quantity }))}
      onChange={onPoint}
    />
  )
}

/** The looks so far, with what the plan makes of each; one that was taken by mistake can go. */
function Looks({
  point,
  looks,
  planned,
}: {
  point: Point
  looks: readonly Look[]
  planned: readonly (number | undefined)[]
}) {
  if (looks.length === 0) return null
  return (
    <ol className="grid gap-1 border-t border-rule pt-2" aria-label="Looks">
      {looks.map((look, k) => {
        const value = planned[k]
        return (
          <li key={`${look.at} ${k}`} className="flex items-baseline justify-between gap-3">
            <span>
              Look {k + 1}: as planned{' '}
              <b className={cn('font-heavy')}>
                {value === undefined ? 'no value' : <Powers text={formatNumber(value, point.decimals)} />}
              </b>{' '}
              {value !== undefined && point.unit} <span className="note">{look.origin}</span>
            </span>
            <Button look="plain" className="text-note" onClick={() => removeLook(point.id, k)}>
              Forget
            </Button>
          </li>
        )
      })}
    </ol>
  )
}
