import { severities, type Finding, type Fix } from '@calm/core/findings'
import { Glyph } from '../../ui'

/** One finding: what is so, why it matters, the ways out beside the reason, the side effect beside the way out. */
export function FindingView({ finding, onFix }: { finding: Finding; onFix: (fix: Fix) => void }) {
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
      <p className="note">Source: {finding.source}.</p>
    </section>
  )
}
