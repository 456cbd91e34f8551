import type { EndStanding, StandingState } from '@calm/core/job'
import { standingWords } from '@calm/core/job'
import type { RungState } from '@calm/core/ladder'
import { format } from 'date-fns/format'
import { Glyph, tip } from '../../ui'

/** How what was seen stands to the plan, in words and as a mark. */
export const standingSays: Readonly<Record<StandingState, { readonly say: string; readonly mark: RungState }>> = {
  open: { say: 'planned', mark: 'not-started' },
  'to-enter': { say: 'found otherwise, to be entered', mark: 'waiting' },
  pending: { say: 'entered, not in force yet', mark: 'in-hand' },
  'in-force': { say: 'in force', mark: 'proven' },
  otherwise: { say: 'not as planned', mark: 'at-odds' },
}

/** A small mark beside a value: whether it is known to be at work. Nothing while only the plan is known. */
export function StandingMark({ standing }: { standing: EndStanding | undefined }) {
  if (!standing || standing.state === 'open') return null
  const { say, mark } = standingSays[standing.state]
  return (
    <span className="flex-none" data-standing={standing.state} role="img" aria-label={say} {...tip(tellSeen(standing))}>
      <Glyph state={mark} size={13} />
    </span>
  )
}

/** Everything that was seen at an end, a line each. */
export const tellSeen = ({ state, seen }: EndStanding): string =>
  [
    `${standingSays[state].say}.`,
    ...(['found', 'entered', 'in-force'] as const).flatMap((standing) => {
      const each = seen[standing]
      return each
        ? [
            `${standingWords[standing]} ${each.text}, ${each.who === '' ? 'just now' : `${each.who} ${format(each.at, 'dd MMM HH:mm')}`}.`,
          ]
        : []
    }),
  ].join(' ')
