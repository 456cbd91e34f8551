import type { Refusal } from '@calm/core/units'
import { Button, Choice, Glyph, Scroll } from '../ui'

/** A row as far as it could be read, whatever it is a row of. */
export interface PastedRow<Column extends string> {
  readonly line: number
  readonly cells: readonly string[]
  readonly problems: readonly { readonly column: Column; readonly refusal: Refusal }[]
}

interface PastedTableProps<Column extends string, Row extends PastedRow<Column>> {
  readonly rows: readonly (readonly string[])[]
  /** What columns there can be. */
  readonly columns: readonly { readonly id: Column; readonly name: string }[]
  readonly match: readonly (Column | undefined)[]
  readonly hasHead: boolean
  readonly readings: readonly Row[]
  /** What comes of a row that can be read. */
  readonly say: (row: Row) => React.ReactNode
  /** Takes over the likely reading of one cell. */
  readonly onMend: (line: number, index: number, text: string) => void
  readonly onColumn: (index: number, column: Column | undefined) => void
}

/** As many rows as help to see whether the columns are right; rows with trouble come first. */
const SHOWN = 40

/** What was pasted, with a choice over each column and the trouble of each row beside it. */
export function PastedTable<Column extends string, Row extends PastedRow<Column>>(
  props: PastedTableProps<Column, Row>,
) {
  const { rows, columns: known, match, hasHead, readings, say, onColumn, onMend } = props
  const columns = Array.from({ length: rows.reduce((most, row) => Math.max(most, row.length), 0) }, (_, k) => k)
  const ordered = [...readings].sort((a, b) => b.problems.length - a.problems.length || a.line - b.line)
  return (
    <Scroll label="What was pasted" className="max-h-[32vh] border-y border-rule-strong">
      <table className="border-collapse text-row [&_td]:border-t [&_td]:border-rule [&_td]:py-1 [&_td]:pr-3 [&_td]:align-top [&_td]:whitespace-nowrap [&_th]:py-1 [&_th]:pr-3 [&_th]:text-left [&_th]:align-bottom [&_th]:font-read [&_th]:whitespace-nowrap">
        <caption className="sr-only">What was pasted</caption>
        <thead>
          <tr>
            <th>Row</th>
            <th>Reading</th>
            {columns.map((index) => (
              <th key={index}>
                <ColumnChoice
                  label={hasHead ? (rows[0]?.[index] ?? '') : `Column ${index + 1}`}
                  known={known}
                  value={match[index]}
                  onChange={(column) => onColumn(index, column)}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ordered.slice(0, SHOWN).map((reading) => (
            <tr key={reading.line}>
              <td className="text-ink-soft">{reading.line}</td>
              <td className="min-w-62.5 whitespace-normal!">
                {reading.problems.length === 0 ? (
                  <span className="inline-flex items-center gap-1.5">
                    <Glyph state="in-hand" size={14} /> {say(reading)}
                  </span>
                ) : (
                  reading.problems.map(({ column, refusal }) => (
                    <div key={column} className="grid grid-cols-[16px_1fr] gap-1.5 text-odds">
                      <Glyph state="at-odds" size={14} />
                      <div>
                        {refusal.what}
                        {refusal.offers.map((offer) => (
                          <Button
                            className="min-h-6.5 text-ink"
                            key={offer.value}
                            look="plain"
                            onClick={() => onMend(reading.line, match.indexOf(column), offer.value)}
                          >
                            {offer.label}
                          </Button>
                        ))}
                      </div>
                    </div>
                  ))
                )}
              </td>
              {columns.map((index) => (
                <td key={index} className="font-typed font-medium">
                  {reading.cells[index] ?? ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {ordered.length > SHOWN && <p className="note">and {ordered.length - SHOWN} more rows</p>}
    </Scroll>
  )
}

interface ColumnChoiceProps<Column extends string> {
  readonly label: string
  readonly known: readonly { readonly id: Column; readonly name: string }[]
  readonly value: Column | undefined
  readonly onChange: (column: Column | undefined) => void
}

function ColumnChoice<Column extends string>({ label, known, value, onChange }: ColumnChoiceProps<Column>) {
  return (
    <>
      <span className="note">{label}</span>
      <Choice<Column | ''>
        hideLabel
        size="small"
        className="w-32"
        label={`What column ${label} holds`}
        value={value ?? ''}
        choices={[{ value: '', label: 'left out' }, ...known.map(({ id, name }) => ({ value: id, label: name }))]}
        onChange={(next) => onChange(next === '' ? undefined : next)}
      />
    </>
  )
}
