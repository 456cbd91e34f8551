import { severities, type Finding, type Fix } from '@calm/core/findings'
import { useState } from 'react'
import { Glyph } from '../../ui'

interface FindingProps {
  readonly finding: Finding
  readonly onFix: (fix: Fix) => void
  readonly onAccept: (reason: string) => void
}

/** One finding: what is so, why it matters, the ways out beside the reason, the side effect beside the way out. */
export function FindingView({ finding, onFix, onAccept }: FindingProps) {
  const serious = finding.severity !== 'worth-knowing'
  return (
    <section className="finding">
      <p className={`eyebrow ${serious ? 'odds' : ''}`}>
        <Glyph state={serious ? 'at-odds' : 'in-hand'} size={15} />
        {severities[finding.severity].words}
      </p>
      <h2>{finding.title}</h2>
      <p>{finding.why}</p>
      {finding.fixes.length > 0 && (
        <div className="actions">
          {finding.fixes.map((fix, k) => (
            <button
              key={fix.label}
              type="button"
              className={`${k === 0 && serious ? 'act' : 'quiet'} wide`}
              data-fix
              onClick={() => onFix(fix)}
            >
              {fix.label}
            </button>
          ))}
        </div>
      )}
      {finding.fixes[0] && <p className="note">{finding.fixes[0].sideEffect}</p>}
      <Accept finding={finding} onAccept={onAccept} />
      <p className="note">Source: {finding.source}.</p>
    </section>
  )
}

const SHORTEST = 3

/** A finding may stand, when a person says why. The reason goes into the log and stays beside it. */
export function Accept({ finding, onAccept }: Pick<FindingProps, 'finding' | 'onAccept'>) {
  const [reason, setReason] = useState<string | undefined>(undefined)
  if (reason === undefined) {
    return (
      <button type="button" className="plain" onClick={() => setReason('')}>
        Let it stand
      </button>
    )
  }
  const short = reason.trim().length < SHORTEST
  return (
    <form
      className="accept"
      onSubmit={(event) => {
        event.preventDefault()
        if (!short) onAccept(reason.trim())
      }}
    >
      <label>
        <span className="note">Why it may stand</span>
        <input
          className="input"
          aria-label={`Why "${finding.title}" may stand`}
          value={reason}
          maxLength={400}
          ref={(input) => void (reason === '' && input?.focus())}
          onChange={(event) => setReason(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && setReason(undefined)}
        />
      </label>
      <button type="submit" className="quiet" disabled={short}>
        Let it stand
      </button>
      {short && <span className="note">a reason of at least {SHORTEST} characters</span>}
    </form>
  )
}
