import type { Cause } from '@calm/core/procedure'
import { Glyph, cn } from '../../../ui'

const marks = { cleared: 'proven', likely: 'at-odds', ask: 'not-started' } as const
const words = { cleared: 'not that', likely: 'likely', ask: 'look yourself' } as const

/** Why nothing answers, cheapest cause first. */
export function Causes({ causes }: { causes: readonly Cause[] }) {
  return (
    <ol className="grid gap-1.5 border-l-[3px] border-rule-strong pl-3.5" aria-label="Why nothing answers">
      {causes.map((cause) => (
        <li className="flex gap-2" data-verdict={marks[cause.verdict]} key={cause.id}>
          <span className="mt-0.75">
            <Glyph state={marks[cause.verdict]} size={16} />
          </span>
          <span>
            <b>{cause.question}</b>{' '}
            <span
              className={cn(
                'inline-flex items-center gap-1.5',
                marks[cause.verdict] === 'at-odds' && 'font-firm text-odds',
              )}
            >
              {words[cause.verdict]}
            </span>
            <p className="note">{cause.found}</p>
            {cause.verdict !== 'cleared' && <p>{cause.todo}</p>}
          </span>
        </li>
      ))}
    </ol>
  )
}
