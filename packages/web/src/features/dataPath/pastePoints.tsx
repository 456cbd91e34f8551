import type { Change } from '@calm/core/changes'
import { deviceOf, type Device, type Handshake, type Job } from '@calm/core/job'
import { tables, tableOfFunction, type Table } from '@calm/core/modbus'
import {
  matchPointColumns,
  openRows,
  placeOf,
  pointChanges,
  pointColumns,
  readPointRows,
  type DocumentCounts,
  type PointColumnId,
  type PointMatch,
} from '@calm/core/points'
import { useDeferredValue, useMemo, useState } from 'react'
import { newId } from '../../api'
import type { JobEdit } from '../../edit'
import { MOST_POINT_ROWS, PastedTable, readTableFile, rowsOf, textOf, textWithRest } from '../../pasted'
import { Button, Choice, cn, Dialog, FilePicker, formActions, input, Problems, Radios } from '../../ui'

interface PasteProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly edit: JobEdit
  readonly onClose: () => void
}

/** A list of points out of a manual: columns are matched, the way in which the document counts is asked once. */
export function PastePoints({ job, handshake, edit, onClose }: PasteProps) {
  const [text, setText] = useState('')
  const [notes, setNotes] = useState<readonly string[]>([])
  const [chosen, setChosen] = useState<PointMatch | undefined>(undefined)
  const device = deviceOf(job, handshake.deviceId)
  const [from, setFrom] = useState(device?.documentFrom ?? undefined)
  const [table, setTable] = useState<Table>(() => usualTable(job, handshake))
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const settled = useDeferredValue(text)
  const { rows, notes: notesOfText, rest } = useMemo(() => rowsOf(settled, MOST_POINT_ROWS), [settled])
  const guess = useMemo(() => matchPointColumns(rows), [rows])
  const match = chosen ?? guess.match
  const open = useMemo(() => openRows(rows, match, guess.hasHead, table), [rows, match, guess.hasHead, table])
  const isAsked = open > 0 && from === undefined
  const readings = useMemo(() => {
    const counts: DocumentCounts = { from: from === '1' ? 1 : 0, table }
    return readPointRows(rows, match, guess.hasHead, handshake, counts)
  }, [rows, match, guess.hasHead, handshake, from, table])
  const good = readings.filter(({ fields }) => fields !== undefined)
  const bad = readings.length - good.length

  // What a file has beyond that: it comes into the box once what stands there is taken.
  const [waiting, setWaiting] = useState('')

  const take = (next: string, more: readonly string[] = [], rest = '') => {
    setWaiting(rest)
    setText(next)
    setNotes(more)
    setChosen(undefined)
    setTrouble(undefined)
  }
  const takeFile = (file: File) =>
    void readTableFile(file, MOST_POINT_ROWS).then(
      (reading) => take(textOf(reading.rows), reading.notes, reading.rest),
      setTrouble,
    )
  const setColumn = (at: number, column: PointColumnId | undefined) =>
    setChosen(match.map((each, k) => (k === at ? column : each === column ? undefined : each)))
  const mend = (line: number, index: number, value: string) => {
    // What is shown is of a text that has changed since: mended, it would put the old one back.
    if (settled !== text) return
    const cellsOf = (cells: readonly string[]) => cells.map((cell, at) => (at === index ? value : cell))
    setText(
      textWithRest(
        rows.map((cells, k) => (k + 1 === line ? cellsOf(cells) : cells)),
        rest,
      ),
    )
    setChosen(match)
  }
  const add = async () => {
    try {
      await edit.change(`${good.length} points taken from a table.`, [
        ...pointChanges(good, job, handshake, newId),
        ...(open > 0 ? countsFrom(device, from) : []),
      ])
    } catch (reason) {
      return setTrouble(reason)
    }
    if (bad === 0 && rest === '' && waiting === '') return onClose()
    const next = rowsOf(waiting, MOST_POINT_ROWS)
    const left = new Set(readings.filter(({ fields }) => !fields).map(({ line }) => line))
    setText(textWithRest([...rows.filter((_, k) => (guess.hasHead && k === 0) || left.has(k + 1)), ...next.rows], rest))
    setWaiting(next.rest)
    setNotes(next.notes)
    setChosen(match)
    setTrouble(undefined)
  }
  return (
    <Dialog
      title="Points from a list"
      say="Copy the rows of the manual or the spreadsheet and paste them here, or choose a CSV or XLSX file. Nothing is added before you say so."
      open
      room="widest"
      onClose={onClose}
    >
      <div className="mt-3 grid gap-3">
        <textarea
          className={cn(input({ typed: true, area: true }), 'whitespace-pre')}
          aria-label="Rows of points"
          rows={4}
          spellCheck={false}
          placeholder={'Name\tAddress\tType\tOrder\tScale\tUnit'}
          value={text}
          onChange={(event) => take(event.target.value)}
        />
        <div className={formActions}>
          <FilePicker label="CSV or XLSX file" accept=".csv,.txt,.tsv,.xlsx,text/csv" onFile={takeFile}>
            Choose a file
          </FilePicker>
          <Choice
            className="w-56"
            label="Numbers without a table are"
            value={table}
            choices={(Object.keys(tables) as Table[]).map((value) => ({ value, label: `${tables[value].name}s` }))}
            onChange={setTable}
          />
        </div>
        {[...new Set([...notes, ...notesOfText])].map((note) => (
          <p key={note} className="note">
            {note}
          </p>
        ))}
        {open > 0 && (
          <Radios
            label={`How does this document count? ${open} of its registers leave it open.`}
            value={from ?? ''}
            choices={[
              { value: '0', label: 'From 0, as in the frame' },
              { value: '1', label: 'From 1: its first register is number 1' },
            ]}
            onChange={(value) => setFrom(value as '0' | '1')}
          />
        )}
        {rows.length > 0 && (
          <PastedTable
            rows={rows}
            columns={pointColumns}
            match={match}
            hasHead={guess.hasHead}
            readings={readings}
            say={({ known, explanation }) => (
              <>
                {known ? 'changes the point that is there' : 'can be added'}{' '}
                {explanation && <span className="note">{explanation}</span>}
              </>
            )}
            onColumn={setColumn}
            onMend={mend}
          />
        )}
        <Problems reason={trouble} />
        <div className={formActions}>
          <Button look="act" disabled={good.length === 0 || isAsked} onClick={() => void add()}>
            Take {good.length} point{good.length === 1 ? '' : 's'}
          </Button>
          {isAsked && <p className="note">Say first how the document counts.</p>}
          {bad > 0 && <p className="text-odds">{bad} cannot be read and stay here.</p>}
        </div>
      </div>
    </Dialog>
  )
}

/** How the document counts, kept with what was taken of it: it is not asked again. */
const countsFrom = (device: Device | undefined, from: '0' | '1' | undefined): readonly Change[] =>
  !device || from === undefined || from === device.documentFrom
    ? []
    : [{ op: 'set', table: 'device', id: device.id, version: device.version, fields: { documentFrom: from } }]

/** The table that the terms of the handshake name, else holding registers. */
function usualTable(job: Job, handshake: Handshake): Table {
  for (const point of handshake.points) {
    const place = placeOf(job, handshake, point)
    if (!('missing' in place)) return tableOfFunction(place.plan.request.code) ?? 'holding-registers'
  }
  return 'holding-registers'
}
