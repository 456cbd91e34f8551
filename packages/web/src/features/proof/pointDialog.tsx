import { parseReference } from '@calm/core/modbus'
import type { Point } from '@calm/core/job'
import { byteOrders, dataTypes, type ByteOrder, type DataType } from '@calm/core/values'
import { useState } from 'react'
import { Choice, Dialog, Field, Problems } from '../../ui'

interface PointDialogProps {
  readonly point: Point
  readonly controller: string
  readonly onSave: (change: Partial<Point>) => Promise<unknown>
  readonly onClose: () => void
}

/** What travels: the quantity, its tag in the controller, where the controller serves it, and where people see it. */
export function PointDialog({ point, controller, onSave, onClose }: PointDialogProps) {
  const [form, setForm] = useState({
    quantity: point.quantity,
    unit: point.unit,
    decimals: String(point.decimals),
    tag: point.tag,
    register: point.served?.register ?? '',
    type: point.served?.type ?? ('float32' as DataType),
    order: point.served?.order ?? ('ABCD' as ByteOrder),
    shownAt: point.shownAt,
  })
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const reading = form.register.trim() === '' ? undefined : parseReference(form.register)
  const save = async (event: React.FormEvent) => {
    event.preventDefault()
    if (reading && !reading.ok) return
    const { quantity, unit, tag, shownAt, register, type, order } = form
    try {
      await onSave({
        quantity,
        unit,
        tag,
        shownAt,
        decimals: Number(form.decimals),
        served: register.trim() === '' ? null : { register: register.trim(), type, order },
      })
      onClose()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  const set = (name: keyof typeof form) => (value: string) => setForm((before) => ({ ...before, [name]: value }))
  return (
    <Dialog title="What is read" open onClose={onClose}>
      <form onSubmit={(event) => void save(event)} noValidate>
        <div className="form-grid">
          <Field label="Quantity" value={form.quantity} onChange={set('quantity')} />
          <Field label="Unit" value={form.unit} onChange={set('unit')} />
          <Field label={`Tag in ${controller}`} value={form.tag} onChange={set('tag')} />
          <Field label="Decimals shown" inputMode="numeric" value={form.decimals} onChange={set('decimals')} />
          <Field
            label={`Register where ${controller} serves the tag`}
            typed
            placeholder="none: its value is typed"
            value={form.register}
            trouble={reading && !reading.ok ? reading.refusal : undefined}
            onChange={set('register')}
          />
          <Choice
            label="Served as"
            value={form.type}
            choices={Object.entries(dataTypes).map(([value, facts]) => ({ value, label: facts.name }))}
            onChange={set('type')}
          />
          <Choice
            label="Word order of the tag"
            value={form.order}
            choices={Object.entries(byteOrders).map(([value, facts]) => ({ value, label: `${value}, ${facts.name}` }))}
            onChange={set('order')}
          />
          <Field label="Screen where people see it" placeholder="none" value={form.shownAt} onChange={set('shownAt')} />
        </div>
        <Problems reason={trouble} />
        <button type="submit" className="act tall">
          Save
        </button>
      </form>
    </Dialog>
  )
}
