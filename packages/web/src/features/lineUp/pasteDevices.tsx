import type { DeviceBatch } from '@calm/contract'
import {
  deviceColumns,
  matchColumns,
  readDeviceRows,
  type ColumnMatch,
  type DeviceColumn,
  type Job,
} from '@calm/core/job'
import { parse } from 'papaparse'
import { useMemo, useRef, useState } from 'react'
import { Dialog, Problems } from '../../ui'
import { batchOf } from './deviceBatch'
import { busiestNetwork } from './busiestNetwork'
import { PastePreview } from './pastePreview'

interface PasteProps {
  readonly job: Job
  readonly onAdd: (batch: DeviceBatch) => Promise<unknown>
  readonly onClose: () => void
}

/** Tabs from a spreadsheet, commas or semicolons from a file, quotes around cells: the library tells them apart. */
const cellsOf = (text: string): readonly (readonly string[])[] =>
  text.trim() === '' ? [] : parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' }).data

const textOf = (rows: readonly (readonly string[])[]): string => rows.map((cells) => cells.join('\t')).join('\n')

/** Many devices from a spreadsheet: pasted, or read from a CSV file. Columns are matched first, then each row is read. */
export default function PasteDevices({ job, onAdd, onClose }: PasteProps) {
  const [text, setText] = useState('')
  const [chosen, setChosen] = useState<ColumnMatch | undefined>(undefined)
  const [networkId, setNetworkId] = useState(busiestNetwork(job) ?? '')
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const file = useRef<HTMLInputElement>(null)
  const taken = useMemo(() => new Set(job.devices.map((device) => device.tag)), [job.devices])
  const rows = useMemo(() => cellsOf(text), [text])
  const guess = useMemo(() => matchColumns(rows), [rows])
  const match = chosen ?? guess.match
  const readings = useMemo(() => readDeviceRows(rows, match, guess.hasHead, taken), [rows, match, guess.hasHead, taken])
  const good = readings.filter((reading) => reading.device !== undefined)
  const bad = readings.length - good.length

  const take = (next: string) => {
    setText(next)
    setChosen(undefined)
    setTrouble(undefined)
  }
  const setColumn = (index: number, column: DeviceColumn | undefined) =>
    setChosen(match.map((each, k) => (k === index ? column : each === column ? undefined : each)))
  const mend = (line: number, index: number, value: string) => {
    setText(
      textOf(rows.map((cells, k) => (k + 1 === line ? cells.map((cell, c) => (c === index ? value : cell)) : cells))),
    )
    setChosen(match)
  }
  const add = async () => {
    try {
      await onAdd(batchOf(good, job, networkId))
    } catch (reason) {
      return setTrouble(reason)
    }
    if (bad === 0) return onClose()
    // What could not be read stays, to be put right; what was added goes.
    const left = new Set(readings.filter((reading) => !reading.device).map((reading) => reading.line))
    setText(textOf(rows.filter((_, k) => (guess.hasHead && k === 0) || left.has(k + 1))))
    setChosen(match)
    setTrouble(undefined)
  }

  return (
    <Dialog
      title="Devices from a spreadsheet"
      say="Copy the cells there and paste them here, or choose a CSV file. Nothing is added before you say so."
      open
      onClose={onClose}
    >
      <div className="grid gap-3 mt-3">
        <textarea
          className="input typed paste-area"
          aria-label="Cells from a spreadsheet"
          rows={5}
          spellCheck={false}
          placeholder={'Tag\tDescription\tIP address\tUnit'}
          value={text}
          onChange={(event) => take(event.target.value)}
        />
        <input
          ref={file}
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          aria-label="CSV file"
          className="visually-hidden"
          onChange={(event) => {
            const [picked] = event.target.files ?? []
            if (picked) void picked.text().then(take)
            event.target.value = ''
          }}
        />
        <div className="form-actions">
          <button type="button" className="quiet" onClick={() => file.current?.click()}>
            Choose a CSV file
          </button>
          {job.networks.length > 0 && (
            <label className="flex gap-2 items-center note">
              Network
              <select className="input" value={networkId} onChange={(event) => setNetworkId(event.target.value)}>
                <option value="">none yet</option>
                {job.networks.map((network) => (
                  <option key={network.id} value={network.id}>
                    {network.name}
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
        {rows.length > 0 && (
          <PastePreview
            rows={rows}
            match={match}
            hasHead={guess.hasHead}
            readings={readings}
            onColumn={setColumn}
            onMend={mend}
          />
        )}
        <Problems reason={trouble} />
        <div className="form-actions">
          <button type="button" className="act tall" disabled={good.length === 0} onClick={() => void add()}>
            Add {good.length} device{good.length === 1 ? '' : 's'}
          </button>
          {bad > 0 && (
            <p className="note" role="status">
              {bad} row{bad === 1 ? '' : 's'} cannot be read yet and stay{bad === 1 ? 's' : ''} here.{' '}
              {match.includes('tag') ? '' : `Say which column is the ${deviceColumns.tag.name.toLowerCase()}.`}
            </p>
          )}
        </div>
      </div>
    </Dialog>
  )
}
