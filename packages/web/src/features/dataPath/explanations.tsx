import {
  sayExplanation,
  surenessOf,
  type Question,
  type RankedExplanation,
  type TellingReading,
} from '@calm/core/explain'
import { formatNumber } from '@calm/core/values'
import { Button, cn, Glyph, Powers } from '../../ui'
import type { Explained } from '../../workers'

/** How sure an explanation is, with the reason. */
function sureText(each: RankedExplanation): string {
  if (each.isStrained) return 'The value moved and its lowest word stood still: that word may belong to something else.'
  if (each.isTaken) return 'It takes registers from which another point was just seen to be read rightly.'
  switch (surenessOf(each)) {
    case 'sure':
      return 'Sure: nothing else fits with one change more.'
    case 'weak':
      return 'Weak: what is asked is so wide that much fits by chance.'
    case 'likely':
      return each.rivals > 0
        ? `Likely. ${each.rivals} other${each.rivals === 1 ? ' fits' : 's fit'} with one change more: a finer reference, or a look at another value, tells.`
        : 'Likely. A look at another value makes it sure.'
  }
}

interface ExplanationsProps {
  readonly question: Question
  readonly explained: Explained
  readonly decimals: number
  /** Points of the device that were solved along with it. */
  readonly along: number
  readonly shown: number
  readonly onShow: (index: number) => void
  readonly onAccept: (each: RankedExplanation) => void
  /** For a point that lies where the terms say: they are changed instead. */
  readonly terms?: {
    readonly tag: string
    readonly can: (each: RankedExplanation) => boolean
    readonly onAccept: (each: RankedExplanation) => void
  }
}

/** The verdict on a point, and every explanation worth looking at, the simplest first. */
export function Explanations(props: ExplanationsProps) {
  const { question, explained, decimals, along, shown, onShow, onAccept, terms } = props
  const { search, explanations, equals } = explained.answer
  const others = explanations.filter((each) => !equals.includes(each)).slice(0, 3)
  const say = (each: RankedExplanation) => <Powers text={sayExplanation(question, each, decimals)} />
  const list = [...equals, ...others]
  return (
    <>
      <p
        className={cn('text-lead', search.verdict === 'unexplained' && 'text-odds')}
        role="status"
        data-verdict={search.verdict}
      >
        {verdictOf(explained, question)}
      </p>
      <p className="-mt-3 note">
        {search.compared > 0 &&
          `${search.compared} readings compared at ${question.samples.length} look${question.samples.length === 1 ? '' : 's'}${search.outside > 0 ? `; ${search.outside} formats need registers that were not given` : ''}${along > 0 ? `; solved together with ${along} other point${along === 1 ? '' : 's'}` : ''}.`}
      </p>
      {search.verdict !== 'right' && list.length > 0 && (
        <ol className="grid gap-1.5" aria-label="Explanations">
          {list.map((each, k) => (
            <li
              key={k}
              data-explanation={k}
              className={cn(
                'grid grid-cols-[18px_1fr_auto] items-start gap-x-2 border-t border-rule pt-1.5',
                equals.includes(each) || 'text-ink-soft',
              )}
            >
              <Glyph state={equals.includes(each) ? 'in-hand' : 'not-started'} size={14} />
              <div>
                <button
                  type="button"
                  className="text-left font-heavy hover:underline"
                  aria-pressed={shown === k}
                  onClick={() => onShow(k)}
                >
                  {say(each)}
                </button>
                <p className="note">{sureText(each)}</p>
              </div>
              <span className="grid justify-items-end gap-1">
                {terms?.can(each) && (
                  <Button
                    look={k === 0 && equals.length === 1 ? 'act' : undefined}
                    onClick={() => terms.onAccept(each)}
                  >
                    Change the terms of {terms.tag}
                  </Button>
                )}
                <Button
                  look={k === 0 && equals.length === 1 && !terms?.can(each) ? 'act' : undefined}
                  onClick={() => onAccept(each)}
                >
                  {terms?.can(each) ? 'For this point alone' : 'Take it over'}
                </Button>
              </span>
            </li>
          ))}
        </ol>
      )}
      {equals.length > 1 && <Telling question={question} equals={equals} telling={explained.telling} />}
    </>
  )
}

function verdictOf({ answer }: Explained, question: Question): string {
  const { search, equals } = answer
  switch (search.verdict) {
    case 'not-conclusive':
      return `Not conclusive: ${search.missing.charAt(0).toLowerCase()}${search.missing.slice(1)}`
    case 'right': {
      const plan = answer.explanations.find(({ aspects }) => aspects.length === 0)
      return plan?.isStrained && equals.some((each) => !each.isStrained)
        ? 'Right within what is allowed, but its lowest word stood still while the value moved: it may be taken from another register.'
        : `The plan reads it right at ${question.samples.length === 1 ? 'this look' : `all ${question.samples.length} looks`}.`
    }
    case 'unexplained':
      return 'Nothing explains it: no place within two registers, no type, order or scale gives what is expected.'
    case 'explained':
      return equals.length === 1
        ? 'One explanation is simpler than all others.'
        : `${equals.length} explanations are equally simple; nothing seen so far puts one before the others.`
  }
}

/** The one reading that would tell equal explanations apart. */
function Telling({
  question,
  equals,
  telling,
}: {
  question: Question
  equals: readonly RankedExplanation[]
  telling: TellingReading | undefined
}) {
  if (!telling)
    return (
      <p className="note">No single reading that was tried parts all of them: look again at quite another value.</p>
    )
  if (telling.kind === 'value')
    return (
      <p data-telling>
        To tell them apart, bring the value to about{' '}
        <b className="font-heavy">
          {formatNumber(telling.value)} {question.unit}
        </b>{' '}
        and look again: only one of them then shows it.
      </p>
    )
  return (
    <p data-telling>
      To tell them apart, let the value move and look again. What changes is its own:{' '}
      {equals.map((_, k) => {
        const own = telling.own[k] ?? []
        return `${k > 0 ? '; ' : ''}${ordinal(k)} ${own.length === 0 ? 'has none of its own' : `address ${own.join(', ')}`}`
      })}
      .
    </p>
  )
}

const ordinal = (k: number) => ['the first', 'the second', 'the third', 'the fourth'][k] ?? `number ${k + 1}`
