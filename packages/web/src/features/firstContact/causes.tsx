import type { Cause } from '@calm/core/procedure'
import { Glyph } from '../../ui'

const marks = { cleared: 'proven', likely: 'at-odds', ask: 'not-started' } as const
const words = { cleared: 'not that', likely: 'likely', ask: 'look yourself' } as const

/** Why nothing answers, cheapest cause first. */
export function Causes({ causes }: { causes: readonly Cause[] }) {
  return (
    <ol className="causes" aria-label="Why nothing answers">
      {causes.map((cause) => (
        <li key={cause.id}>
          <Glyph state={marks[cause.verdict]} size={16} />
          <span>
            <b>{cause.question}</b> <span className={`state ${marks[cause.verdict]}`}>{words[cause.verdict]}</span>
            <p className="note">{cause.found}</p>
            {cause.verdict !== 'cleared' && <p>{cause.todo}</p>}
          </span>
        </li>
      ))}
    </ol>
  )
}
