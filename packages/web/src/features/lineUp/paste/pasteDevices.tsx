import type { Job } from '@calm/core/job'
import {
  deviceColumn,
  deviceColumns,
  matchColumns,
  readDeviceRows,
  rememberedMatch,
  tableChanges,
  type ColumnMatch,
  type DeviceColumnId,
} from '@calm/core/lineUp'
import { useDeferredValue, useMemo, useState } from 'react'
import { newId } from '../../../api'
import { Button, Checkbox, Choice, cn, Dialog, FilePicker, formActions, input, Problems } from '../../../ui'
import { busiestNetwork } from '../busiestNetwork'
import { several } from '../table'
import { PastedTable, readTableFile, rowsOf, TABLE_FILE_LIMIT, textOf, textWithRest } from '../../../pasted'
import { rememberColumns, rememberedColumns } from './rememberedColumns'
import type { LineUp } from '../useLineUp'

interface PasteProps {
  readonly job: Job
  readonly lineUp: LineUp
  readonly onClose: () => void
}

/** Many devices from a spreadsheet: pasted, or read from a file. Columns are matched first, then each row is read. */
export default function PasteDevices({ job, lineUp, onClose }: PasteProps) {
  const [text, setText] = useState('')
  const [fileNotes, setFileNotes] = useState<readonly string[]>([])
  const [chosen, setChosen] = useState<ColumnMatch | undefined>(undefined)
  const [networkId, setNetworkId] = useState(busiestNetwork(job) ?? '')
  const [update, setUpdate] = useState(false)
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const [readingFile, setReadingFile] = useState('')
  // Reading thousands of rows must not hold up what is typed.
  const settled = useDeferredValue(text)
  const { rows, notes, rest } = useMemo(() => rowsOf(settled), [settled])
  const guess = useMemo(() => matchColumns(rows, rememberedColumns()), [rows])
  const match = chosen ?? guess.match
  const readings = useMemo(
    () => readDeviceRows(rows, match, guess.hasHead, job, update),
    [rows, match, guess.hasHead, job, update],
  )
  const good = readings.filter((reading) => reading.edit !== undefined)
  const bad = readings.length - good.length
  const fresh = good.filter((reading) => !reading.device).length
  const tags = useMemo(() => new Set(job.devices.map((device) => device.tag)), [job.devices])
  const known = readings.filter((reading) => tags.has(reading.tag)).length

  // What a file has beyond that: it comes into the box once what stands there is added.
  const [waiting, setWaiting] = useState('')

  const take = (next: string, notesOfFile: readonly string[] = [], rest = '') => {
    setWaiting(rest)
    setText(next.length > TABLE_FILE_LIMIT ? next.slice(0, TABLE_FILE_LIMIT) : next)
    setFileNotes(notesOfFile)
    setChosen(undefined)
    setTrouble(undefined)
  }
  const takeFile = async (picked: File) => {
    setReadingFile(picked.name)
    try {
      const reading = await readTableFile(picked)
      take(textOf(reading.rows), reading.notes, reading.rest)
    } catch (reason) {
      setTrouble(reason)
    } finally {
      setReadingFile('')
    }
  }
  const setColumn = (index: number, column: DeviceColumnId | undefined) =>
    setChosen(match.map((each, k) => (k === index ? column : each === column ? undefined : each)))
  const mend = (line: number, index: number, value: string) => {
    // What is shown is of a text that has changed since: mended, it would put the old one back.
    if (settled !== text) return
    setText(
      textWithRest(
        rows.map((cells, k) => (k + 1 === line ? cells.map((cell, c) => (c === index ? value : cell)) : cells)),
        rest,
      ),
    )
    setChosen(match)
  }
  const add = async () => {
    const changes = tableChanges(good, job, networkId || null, newId)
    try {
      await lineUp.change(`${several(good.length, 'row')} taken from a table.`, changes)
    } catch (reason) {
      return setTrouble(reason)
    }
    if (guess.hasHead) rememberColumns(rememberedMatch(rows[0] ?? [], match))
    if (bad === 0 && rest === '' && waiting === '') return onClose()
    // What could not be read stays, to be put right; what was added goes.
    const next = rowsOf(waiting)
    const left = new Set(readings.filter((reading) => !reading.edit).map((reading) => reading.line))
    setText(textWithRest([...rows.filter((_, k) => (guess.hasHead && k === 0) || left.has(k + 1)), ...next.rows], rest))
    setWaiting(next.rest)
    setFileNotes(next.notes)
    setChosen(match)
    setTrouble(undefined)
  }
  const changed = good.length - fresh
  const label = changed > 0 ? `Add ${fresh}, change ${changed}` : `Add ${several(fresh, 'device')}`

  return (
    <Dialog
      title="Devices from a spreadsheet"
      say="Copy the cells there and paste them here, or choose a CSV or XLSX file: at most 5 000 rows and 10 MB. Nothing is added before you say so."
      open
      room="widest"
      onClose={onClose}
    >
      <div className="mt-3 grid gap-3">
        <textarea
          className={cn(input({ typed: true, area: true }), 'whitespace-pre')}
          aria-label="Cells from a spreadsheet"
          rows={5}
          spellCheck={false}
          placeholder={'Tag\tDescription\tIP address\tUnit'}
          value={text}
          onChange={(event) => take(event.target.value)}
        />
        <div className={formActions}>
          <FilePicker
            label="CSV or XLSX file"
            accept=".csv,.txt,.tsv,.xlsx,text/csv"
            onFile={(file) => void takeFile(file)}
          >
            Choose a file
          </FilePicker>
          {readingFile !== '' && (
            <p className="note" role="status">
              Reading {readingFile}, at most 20 s…
            </p>
          )}
          {job.networks.length > 0 && (
            <Choice
              className="w-50"
              label="Network"
              value={networkId}
              choices={[
                { value: '', label: 'none yet' },
                ...job.networks.map(({ id, name }) => ({ value: id, label: name })),
              ]}
              onChange={setNetworkId}
            />
          )}
          {known > 0 && (
            <Checkbox
              label={`Change the ${known} that ${known === 1 ? 'is' : 'are'} here already`}
              checked={update}
              onChange={setUpdate}
            />
          )}
        </div>
        {(fileNotes.length > 0 || notes.length > 0) && (
          <ul className="max-h-24 overflow-auto note" aria-label="About the table">
            {[...fileNotes, ...notes].slice(0, 40).map((note) => (
              <li key={note}>{note}</li>
            ))}
          </ul>
        )}
        {rows.length > 0 && (
          <PastedTable
            rows={rows}
            columns={deviceColumns}
            say={({ device }) => (device ? 'can be changed' : 'can be added')}
            match={match}
            hasHead={guess.hasHead}
            readings={readings}
            onColumn={setColumn}
            onMend={mend}
          />
        )}
        <Problems reason={trouble} />
        <div className={formActions}>
          <Button look="act" size="tall" disabled={good.length === 0 || settled !== text} onClick={() => void add()}>
            {label}
          </Button>
          {bad > 0 && (
            <p className="note" role="status">
              {bad} row{bad === 1 ? '' : 's'} cannot be read yet and stay{bad === 1 ? 's' : ''} here.{' '}
              {match.includes('tag') ? '' : `Say which column is the ${deviceColumn('tag').name.toLowerCase()}.`}
            </p>
          )}
        </div>
      </div>
    </Dialog>
  )
}
