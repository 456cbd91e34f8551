import type { Point } from '@calm/core/job'
import { ok } from '@calm/core/units'
import { parseDecimal, toleranceText, type Tolerance } from '@calm/core/values'
import { useState } from 'react'
import { Choice, Dialog, Editable, Field, Problems } from '../../ui'

interface WantProps {
  readonly point: Point
  readonly onChange: (change: Partial<Pick<Point, 'reference' | 'tolerance'>>) => Promise<unknown>
}

/** What an independent instrument shows, and how far off the reading may be. */
export function Want({ point, onChange }: WantProps) {
  const [asking, setAsking] = useState(false)
  const { reference } = point
  return (
    <div className="want">
      <span className="note">Reference: it should be</span>
      <div className="want-line">
        <Editable
          label="Reference value"
          text={reference === null ? '' : String(reference.value)}
          spoken={reference === null ? 'type it' : String(reference.value)}
          shown={reference === null ? <span className="soft">type it</span> : undefined}
          read={(text) => (text.trim() === '' ? ok(null) : parseDecimal(text, 'The reference'))}
          onSave={(text) => {
            const value = parseDecimal(text)
            return onChange({ reference: value.ok ? { value: value.value, origin: reference?.origin ?? '' } : null })
          }}
        />
        <i>{point.unit}</i>
      </div>
      <div className="want-details">
        <button type="button" className="plain" onClick={() => setAsking(true)}>
          {toleranceText(point.tolerance, point.unit)}
        </button>
        {reference !== null && (
          <Editable
            label="Where the reference was read"
            className="note"
            text={reference.origin}
            spoken={reference.origin || 'read where, by whom?'}
            shown={<span className="note">{reference.origin || 'read where, by whom?'}</span>}
            read={ok}
            onSave={(origin) => onChange({ reference: { value: reference.value, origin } })}
          />
        )}
      </div>
      {asking && (
        <ToleranceDialog
          point={point}
          onSave={(tolerance) => onChange({ tolerance })}
          onClose={() => setAsking(false)}
        />
      )}
    </div>
  )
}

const KINDS = [
  { value: 'percent-of-reading', label: 'percent of the reference' },
  { value: 'absolute', label: 'fixed amount' },
  { value: 'percent-of-span', label: 'percent of a span' },
  { value: 'resolution', label: 'steps of the resolution' },
]
const FIELDS: Readonly<Record<Tolerance['kind'], readonly (readonly [string, string])[]>> = {
  'percent-of-reading': [['percent', 'Percent']],
  absolute: [['amount', 'Amount, in the unit of the value']],
  'percent-of-span': [
    ['percent', 'Percent'],
    ['low', 'Low end of the span'],
    ['high', 'High end of the span'],
  ],
  resolution: [
    ['step', 'One step'],
    ['steps', 'How many steps'],
  ],
}

function ToleranceDialog({
  point,
  onSave,
  onClose,
}: {
  point: Point
  onSave: (next: Tolerance) => Promise<unknown>
  onClose: () => void
}) {
  const [kind, setKind] = useState<Tolerance['kind']>(point.tolerance.kind)
  const [texts, setTexts] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(
      Object.entries(point.tolerance)
        .filter(([name]) => name !== 'kind')
        .map(([name, value]) => [name, String(value)]),
    ),
  )
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const read = FIELDS[kind].map(([name, label]) => [name, parseDecimal(texts[name] ?? '', label)] as const)
  const save = async (event: React.FormEvent) => {
    event.preventDefault()
    if (read.some(([, value]) => !value.ok)) return
    const numbers = Object.fromEntries(read.map(([name, value]) => [name, value.ok ? value.value : 0]))
    try {
      await onSave({ kind, ...numbers } as Tolerance)
      onClose()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  return (
    <Dialog title="Tolerance" say="How far the reading may be from the reference." open onClose={onClose}>
      <form onSubmit={(event) => void save(event)} noValidate>
        <div className="form-grid">
          <div className="whole">
            <Choice label="Kind" value={kind} choices={KINDS} onChange={(next) => setKind(next as Tolerance['kind'])} />
          </div>
          {FIELDS[kind].map(([name, label], k) => {
            const value = read[k]?.[1]
            return (
              <Field
                key={name}
                label={label}
                value={texts[name] ?? ''}
                trouble={value && !value.ok && (texts[name] ?? '') !== '' ? value.refusal : undefined}
                onChange={(text) => setTexts((before) => ({ ...before, [name]: text }))}
              />
            )
          })}
        </div>
        <Problems reason={trouble} />
        <button type="submit" className="act tall">
          Set
        </button>
      </form>
    </Dialog>
  )
}
