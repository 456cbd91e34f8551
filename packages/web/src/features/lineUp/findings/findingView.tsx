import { newRow } from '@calm/contract'
import { severities, type Finding, type Fix } from '@calm/core/findings'
import { useState } from 'react'
import { againstPart, useSchemaForm } from '../../../forms'
import { Button, cn, Field, Glyph } from '../../../ui'

interface FindingProps {
  readonly finding: Finding
  readonly onFix: (fix: Fix) => void
  readonly onAccept: (reason: string) => void
}

/** One finding: what is so, why it matters, the ways out beside the reason, the side effect beside the way out. */
export function FindingView({ finding, onFix, onAccept }: FindingProps) {
  const serious = finding.severity !== 'worth-knowing'
  return (
    <section className="not-first-of-type:mt-3.5 not-first-of-type:border-t not-first-of-type:border-rule-strong not-first-of-type:pt-3">
      <p className={cn('flex items-center gap-1.75 text-row font-firm', serious && 'text-odds')}>
        <Glyph state={serious ? 'at-odds' : 'in-hand'} size={15} />
        {severities[finding.severity].words}
      </p>
      <h2>{finding.title}</h2>
      <p>{finding.why}</p>
      {finding.fixes.length > 0 && (
        <div className="mt-2.5 mb-2 grid gap-2">
          {finding.fixes.map((fix, k) => (
            <Button
              key={fix.label}
              look={k === 0 && serious ? 'act' : 'quiet'}
              wide
              data-fix
              onClick={() => onFix(fix)}
            >
              {fix.label}
            </Button>
          ))}
        </div>
      )}
      {finding.fixes[0] && <p className="note">{finding.fixes[0].sideEffect}</p>}
      <Accept finding={finding} onAccept={onAccept} />
      <p className="note">Source: {finding.source}.</p>
    </section>
  )
}

const checkReason = againstPart<{ readonly reason: string }>(newRow('acceptance'))

/** A finding may stand, when a person says why. The reason goes into the log and stays beside it. */
export function Accept({ finding, onAccept }: Pick<FindingProps, 'finding' | 'onAccept'>) {
  const [asking, setAsking] = useState(false)
  if (!asking)
    return (
      <Button look="plain" onClick={() => setAsking(true)}>
        Let it stand
      </Button>
    )
  return <AcceptForm title={finding.title} onAccept={onAccept} onClose={() => setAsking(false)} />
}

interface AcceptFormProps {
  readonly title: string
  readonly onAccept: (reason: string) => void
  readonly onClose: () => void
}

function AcceptForm({ title, onAccept, onClose }: AcceptFormProps) {
  const form = useSchemaForm({
    start: { reason: '' },
    check: checkReason,
    send: ({ reason }) => Promise.resolve(onAccept(reason)),
  })
  return (
    <form className="grid justify-items-start gap-1.5" onSubmit={form.onSubmit} noValidate>
      <Field
        className="w-full max-w-105"
        label={`Why "${title}" may stand`}
        autoFocus
        {...form.bind('reason')}
        onKeyDown={(event) => event.key === 'Escape' && onClose()}
      />
      <Button type="submit">Let it stand</Button>
    </form>
  )
}
