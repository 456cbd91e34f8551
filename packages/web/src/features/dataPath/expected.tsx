import type { Expectation } from '@calm/core/explain'
import { parseDecimal } from '@calm/core/values'
import { useState } from 'react'
import { Field, Toggles } from '../../ui'

const kinds = [
  { value: 'about', say: 'About', tip: 'As an independent instrument shows it' },
  { value: 'between', say: 'Between', tip: 'Somewhere in a range' },
  { value: 'rising', say: 'Rising', tip: 'By so much in so long: a counter' },
] as const
type Kind = (typeof kinds)[number]['value']

const labels: Readonly<Record<Kind, readonly string[]>> = {
  about: ['Value', 'Give or take'],
  between: ['From', 'To'],
  rising: ['By', 'Give or take', 'In seconds'],
}

interface ExpectedProps {
  readonly unit: string
  readonly start: Expectation | undefined
  readonly onChange: (expect: Expectation | undefined) => void
}

/** What the value should be, as far as somebody knows. */
export function Expected({ unit, start, onChange }: ExpectedProps) {
  const [kind, setKind] = useState<Kind>(start && start.kind !== 'shown' ? start.kind : 'about')
  const [typed, setTyped] = useState<readonly string[]>(() => textsOf(start))
  const names = labels[kind]
  const read = names.map((name, k) => parseDecimal(typed[k] ?? '', name))
  const change = (nextKind: Kind, next: readonly string[]) => {
    setKind(nextKind)
    setTyped(next)
    onChange(expectationOf(nextKind, next))
  }
  const trouble = troubleOf(kind, typed)
  return (
    <fieldset className="grid gap-2">
      <legend className="font-heavy">What it should be{unit ? `, in ${unit}` : ''}</legend>
      <Toggles
        label="What is known"
        size="small"
        value={kind}
        items={kinds}
        onChange={(next) => change(next, ['', '', ''])}
      />
      <div className="grid grid-cols-3 gap-2">
        {names.map((name, k) => {
          const one = read[k]
          const text = typed[k] ?? ''
          return (
            <Field
              key={`${kind} ${name}`}
              label={name}
              inputMode="decimal"
              typed
              value={text}
              trouble={text.trim() !== '' && one && !one.ok ? one.refusal : undefined}
              onChange={(next) =>
                change(
                  kind,
                  names.map((_, at) => (at === k ? next : (typed[at] ?? ''))),
                )
              }
            />
          )
        })}
      </div>
      {trouble && <p className="text-odds">{trouble}</p>}
    </fieldset>
  )
}

const textsOf = (expect: Expectation | undefined): readonly string[] => {
  if (!expect) return ['', '', '']
  if (expect.kind === 'between') return [String(expect.low), String(expect.high), '']
  const allowed = String(Number(expect.allowed.toPrecision(6)))
  return expect.kind === 'rising'
    ? [String(expect.by), allowed, String(expect.seconds)]
    : [String(expect.value), allowed, '']
}

function expectationOf(kind: Kind, typed: readonly string[]): Expectation | undefined {
  const numbers = labels[kind].map((name, k) => parseDecimal(typed[k] ?? '', name))
  const [a, b, c] = numbers.map((read) => (read.ok ? read.value : undefined))
  if (a === undefined || b === undefined || troubleOf(kind, typed)) return undefined
  if (kind === 'about') return { kind, value: a, allowed: b }
  if (kind === 'between') return { kind, low: a, high: b }
  return c === undefined ? undefined : { kind, by: a, allowed: b, seconds: c }
}

/** What the numbers say that cannot be. */
function troubleOf(kind: Kind, typed: readonly string[]): string | undefined {
  const [a, b, c] = typed.map((text) => parseDecimal(text)).map((read) => (read.ok ? read.value : undefined))
  if (kind === 'between' && a !== undefined && b !== undefined && a >= b)
    return `The range goes from ${a} to ${b}: the lower number first.`
  if (kind !== 'between' && b !== undefined && b < 0) return `Give or take ${b}: a difference has no sign.`
  if (kind === 'rising' && c !== undefined && c <= 0) return 'It takes some time: more than 0 s.'
  return undefined
}
