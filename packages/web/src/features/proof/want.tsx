import type { Point } from '@calm/core/job'
import { ok } from '@calm/core/units'
import { parseDecimal, toleranceText, type Tolerance } from '@calm/core/values'
import { useState } from 'react'
import { useSchemaForm } from '../../forms'
import { Choice, Dialog, Editable, Field, Problems, Button, formGrid } from '../../ui'

interface WantProps {
  readonly point: Point
  readonly onChange: (change: Partial<Pick<Point, 'reference' | 'tolerance'>>) => Promise<unknown>
}

/** What an independent instrument shows, and how far off the reading may be. */
export function Want({ point, onChange }: WantProps) {
  const [asking, setAsking] = useState(false)
  const { reference } = point
  return (
    <div className="max-w-85 min-w-0 flex-none text-right leading-tight max-tablet:text-left">
      <span className="note">Reference: it should be</span>
      <div className="flex items-center justify-end gap-1.5 font-text text-arm leading-tight font-heavy max-tablet:flex-wrap max-tablet:justify-start">
        <Editable
          label="Reference value"
          className="w-auto min-w-15 text-right"
          inputClassName="h-9.5 w-32.5 text-title font-heavy"
          text={reference === null ? '' : String(reference.value)}
          spoken={reference === null ? 'type it' : String(reference.value)}
          shown={reference === null ? <span className="text-ink-soft">type it</span> : undefined}
          read={(text) => (text.trim() === '' ? ok(null) : parseDecimal(text, 'The reference'))}
          onSave={(text) => {
            const value = parseDecimal(text)
            return onChange({ reference: value.ok ? { value: value.value, origin: reference?.origin ?? '' } : null })
          }}
        />
        <i className="font-text text-body font-medium">{point.unit}</i>
      </div>
      <div className="mt-1.5 flex justify-end gap-2 max-tablet:flex-wrap max-tablet:justify-start">
        <Button look="plain" onClick={() => setAsking(true)}>
          {toleranceText(point.tolerance, point.unit)}
        </Button>
        {reference !== null && (
          <Editable
            label="Where the reference was read"
            className="note"
            inputClassName="h-7.5"
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

type NumberName = 'percent' | 'amount' | 'low' | 'high' | 'step' | 'steps'
const blankTexts: Record<NumberName, string> = { percent: '', amount: '', low: '', high: '', step: '', steps: '' }
const textsOf = ({ kind: _, ...numbers }: Tolerance) =>
  Object.fromEntries(Object.entries(numbers).map(([name, value]) => [name, String(value)])) as Partial<
    typeof blankTexts
  >

const KINDS: readonly { readonly value: Tolerance['kind']; readonly label: string }[] = [
  { value: 'percent-of-reading', label: 'percent of the reference' },
  { value: 'absolute', label: 'fixed amount' },
  { value: 'percent-of-span', label: 'percent of a span' },
  { value: 'resolution', label: 'steps of the resolution' },
]
const FIELDS: Readonly<Record<Tolerance['kind'], readonly (readonly [NumberName, string])[]>> = {
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
  const form = useSchemaForm({
    start: { ...blankTexts, ...textsOf(point.tolerance), kind: point.tolerance.kind },
    atOnce: ['percent', 'amount', 'low', 'high', 'step', 'steps'],
    check: (values) =>
      FIELDS[values.kind].flatMap(([name, label]) => {
        const reading = parseDecimal(values[name], label)
        return reading.ok ? [] : [{ ...reading.refusal, where: name }]
      }),
    send: (values) => {
      const numbers = FIELDS[values.kind].map(([name, label]) => {
        const reading = parseDecimal(values[name], label)
        return [name, reading.ok ? reading.value : 0] as const
      })
      return onSave({ kind: values.kind, ...Object.fromEntries(numbers) } as Tolerance).then(onClose)
    },
  })
  return (
    <Dialog title="Tolerance" say="How far the reading may be from the reference." open onClose={onClose}>
      <form onSubmit={form.onSubmit} noValidate>
        <div className={formGrid}>
          <Choice
            className="col-span-full"
            label="Kind"
            value={form.values.kind}
            choices={KINDS}
            onChange={(kind) => form.set({ kind })}
          />
          {FIELDS[form.values.kind].map(([name, label]) => (
            <Field key={name} label={label} inputMode="decimal" {...form.bind(name)} />
          ))}
        </div>
        <Problems reason={form.trouble} />
        <Button type="submit" look="act" size="tall">
          Set
        </Button>
      </form>
    </Dialog>
  )
}
