import { deviceColumns, type ColumnMatch, type DeviceColumnId, type DeviceRowReading } from '@calm/core/lineUp'
import { Button, Choice, Glyph, Scroll } from '../../../ui'

interface PreviewProps {
  readonly rows: readonly (readonly string[])[]
  readonly match: ColumnMatch
  readonly hasHead: boolean
  readonly readings: readonly DeviceRowReading[]
  /** Takes over the likely reading of one cell. */
  readonly onMend: (line: number, index: number, text: string) => void
  readonly onColumn: (index: number, column: DeviceColumnId | undefined) => void
}

/** As many rows as help to see whether the columns are right; rows with trouble come first. */
const SHOWN = 40

/** What was pasted, with a choice over each column and the trouble of each row beside it. */
export function PastePreview({ rows, match, hasHead, readings, onColumn, onMend }: PreviewProps) {
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
                    <Glyph state="in-hand" size={14} /> {reading.device ? 'can be changed' : 'can be added'}
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

function ColumnChoice({
  label,
  value,
  onChange,
}: {
  label: string
  value: DeviceColumnId | undefined
  onChange: (column: DeviceColumnId | undefined) => void
}) {
  return (
    <>
      <span className="note">{label}</span>
      <Choice
        hideLabel
        size="small"
        className="w-32"
        label={`What column ${label} holds`}
        value={value ?? ''}
        choices={[
          { value: '', label: 'left out' },
          ...deviceColumns.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(next) => onChange(next === '' ? undefined : next)}
      />
    </>
  )
}
