import type { MenuAnswer } from '@calm/core/menu'
import { isTypeable, type StepInMenu } from '@calm/core/procedure'
import { Link } from 'react-router'
import { cn, Glyph } from '../../../ui'

/** What a step does in the menu of its device, with the way to its console. */
export function MenuStep({ menu }: { readonly menu: StepInMenu }) {
  return (
    <div className="grid justify-items-start gap-2">
      <MenuAnswers answers={menu.answers} />
      <Link className="underline underline-offset-2" to="?view=console">
        Its console answers each prompt
      </Link>
    </div>
  )
}

interface MenuAnswersProps {
  readonly answers: readonly MenuAnswer[]
  /** How many of them went out. */
  readonly answered?: number
}

/** The prompts of a menu in their order, with what is typed at each. */
export function MenuAnswers({ answers, answered = 0 }: MenuAnswersProps) {
  return (
    <ol
      className="grid grid-cols-[auto_minmax(0,auto)_auto] items-center justify-start gap-x-2.5 gap-y-1"
      aria-label="Prompts and answers"
    >
      {answers.map(({ prompt, answer }, index) => (
        <li key={`${prompt}${index}`} className="contents">
          <Glyph state={index < answered ? 'proven' : index === answered ? 'in-hand' : 'not-started'} size={14} />
          <span className="font-typed text-ink-soft">{prompt}</span>
          <code className={cn('font-typed text-lead font-medium', !isTypeable(answer) && 'text-odds')}>
            {answer === '' ? '(return)' : answer}
          </code>
        </li>
      ))}
    </ol>
  )
}
