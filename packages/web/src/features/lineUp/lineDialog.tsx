import { newRow, problemsOf, type Problem } from '@calm/contract'
import { nodeFamilies } from '@calm/core/bus'
import { lineMedia, type Line, type LineMedium } from '@calm/core/job'
import { useState } from 'react'
import { Choice, Dialog, Field, Problems } from '../../ui'

type LineFields = Omit<Line, 'id' | 'version'>
const newLine = newRow('line')

interface LineDialogProps {
  readonly line: Line | undefined
  readonly onSave: (fields: LineFields) => Promise<unknown>
  readonly onRemove: () => void
  readonly onClose: () => void
}

const blank: LineFields = {
  name: '',
  medium: 'rs-485-two-wire',
  family: 'decimal-1-247',
  settings: '9600 8N1',
  laptopPort: '',
}

/** A serial line or a bus: its electrical kind, how its nodes are numbered, its settings in short. */
export default function LineDialog({ line, onSave, onRemove, onClose }: LineDialogProps) {
  const [form, setForm] = useState<LineFields>(line ?? blank)
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const put = (fields: Partial<LineFields>) => setForm((before) => ({ ...before, ...fields }))
  const save = async (event: React.FormEvent) => {
    event.preventDefault()
    const { name, medium, family, settings, laptopPort } = form
    const fields = {
      name: name.trim(),
      medium,
      family,
      settings: settings.trim(),
      laptopPort: laptopPort.trim(),
    }
    const { error } = newLine.validate(fields, { abortEarly: false, convert: false })
    if (error) return setProblems(problemsOf(error))
    setProblems([])
    try {
      await onSave(fields)
      onClose()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  const troubleAt = (where: string) => problems.find((problem) => problem.where === where)
  return (
    <Dialog title={line ? `Line ${line.name}` : 'Add a line or bus'} open onClose={onClose}>
      <form onSubmit={(event) => void save(event)} noValidate>
        <div className="form-grid">
          <Field label="Name" value={form.name} trouble={troubleAt('name')} onChange={(name) => put({ name })} />
          <Choice
            label="Electrical kind"
            value={form.medium}
            choices={Object.entries(lineMedia).map(([value, { name }]) => ({ value, label: name }))}
            onChange={(text) => {
              const medium = text as LineMedium
              // What is usual on it, until a person says otherwise.
              put({
                medium,
                ...(line ? {} : { family: lineMedia[medium].family, settings: lineMedia[medium].settings }),
              })
            }}
          />
          <Choice
            label="Numbering"
            value={form.family}
            choices={nodeFamilies.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(family) => put({ family })}
          />
          <Field
            label="Settings in short"
            typed
            value={form.settings}
            trouble={troubleAt('settings')}
            onChange={(settings) => put({ settings })}
          />
          <Field
            label="Serial port of this laptop"
            typed
            placeholder="none: reached through a gateway"
            value={form.laptopPort}
            trouble={troubleAt('laptopPort')}
            onChange={(laptopPort) => put({ laptopPort })}
          />
        </div>
        <p className="note">{nodeFamilies.find((each) => each.id === form.family)?.source}.</p>
        <Problems reason={trouble} />
        <div className="form-actions">
          <button type="submit" className="act tall">
            Save
          </button>
          {line && (
            <button type="button" className="plain" onClick={onRemove}>
              Remove {line.name}
            </button>
          )}
        </div>
      </form>
    </Dialog>
  )
}
