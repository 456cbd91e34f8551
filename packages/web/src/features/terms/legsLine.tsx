import { legsOf, type Handshake, type Job } from '@calm/core/job'
import type { Clasp } from '@calm/core/terms'
import { Fragment } from 'react'
import { Glyph, tip } from '../../ui'

/** Leg by leg, where a gateway lies between the ends: what is agreed on each, and what passes through unchanged. */
export function LegsLine({ job, handshake, clasp }: { job: Job; handshake: Handshake; clasp: Clasp }) {
  const legs = legsOf(job, handshake, clasp)
  if (legs.length === 0) return null
  return (
    <p className="flex flex-wrap items-center gap-x-1.5 px-5 pb-1 text-note" aria-label="Legs of the way">
      {legs.map(({ name, rows, agreeing, waits }, k) => (
        <Fragment key={name}>
          {k > 0 && <span className="mx-1.5 text-rule-strong">|</span>}
          <Glyph
            state={
              agreeing === rows.length
                ? 'proven'
                : rows.some(({ state }) => state === 'at-odds')
                  ? 'at-odds'
                  : 'in-hand'
            }
            size={12}
          />
          <b className="font-heavy">{name === '' ? 'Passed through unchanged' : name}</b>
          <span className="text-ink-soft" {...tip(rows.map((row) => row.name).join(', '))}>
            {agreeing} of {rows.length} agree
            {waits !== '' && `; ${waits}`}
          </span>
        </Fragment>
      ))}
    </p>
  )
}
