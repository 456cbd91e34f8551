import { deviceColumns, type ColumnMatch, type DeviceColumnId, type DeviceRowReading } from '@calm/core/lineUp'
import { Glyph } from '../../ui'

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
    <div className="paste-preview">
      <table>
        <caption className="visually-hidden">What was pasted</caption>
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
              <td className="soft">{reading.line}</td>
              <td className="reading">
                {reading.problems.length === 0 ? (
                  <span className="state">
                    <Glyph state="in-hand" size={14} /> {reading.device ? 'can be changed' : 'can be added'}
                  </span>
                ) : (
                  reading.problems.map(({ column, refusal }) => (
                    <div key={column} className="row-problem">
                      <Glyph state="at-odds" size={14} />
                      <div>
                        {refusal.what}
                        {refusal.offers.map((offer) => (
                          <button
                            key={offer.value}
                            type="button"
                            className="plain"
                            onClick={() => onMend(reading.line, match.indexOf(column), offer.value)}
                          >
                            {offer.label}
                          </button>
                        ))}
                      </div>
                    </div>
                  ))
                )}
              </td>
              {columns.map((index) => (
                <td key={index} className="typed">
                  {reading.cells[index] ?? ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {ordered.length > SHOWN && <p className="note">and {ordered.length - SHOWN} more rows</p>}
    </div>
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
    <label>
      <span className="note">{label}</span>
      <select
        className="input"
        aria-label={`What column ${label} holds`}
        value={value ?? ''}
        onChange={(event) => onChange((event.target.value || undefined) as DeviceColumnId | undefined)}
      >
        <option value="">left out</option>
        {deviceColumns.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  )
}
