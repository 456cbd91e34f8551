import type { Point } from '@calm/core/job'
import { parseReference } from '@calm/core/modbus'
import { byteOrders, dataTypes, parseDecimal, type ByteOrder, type DataType } from '@calm/core/values'
import { Checkbox } from 'radix-ui'
import { Check } from 'lucide-react'
import { useId, useState } from 'react'
import { Choice, Dialog, Field, Problems } from '../../ui'

interface PointDialogProps {
  readonly point: Point
  readonly controller: string
  readonly device: string
  readonly onSave: (change: Partial<Point>) => Promise<unknown>
  /** Left out for the last point: a handshake has something to prove. */
  readonly onRemove: (() => void) | undefined
  readonly onClose: () => void
}

const types = Object.entries(dataTypes).map(([value, facts]) => ({ value, label: facts.name }))
const orders = Object.entries(byteOrders).map(([value, facts]) => ({ value, label: `${value}, ${facts.name}` }))

/** A register reference as far as it was typed; blank is no mistake. */
const readingOf = (register: string) => (register.trim() === '' ? undefined : parseReference(register))

/** What travels: the quantity, where the device keeps it, where the controller serves it, and where people see it. */
export function PointDialog({ point, controller, device, onSave, onRemove, onClose }: PointDialogProps) {
  const [form, setForm] = useState({
    quantity: point.quantity,
    unit: point.unit,
    decimals: String(point.decimals),
    tag: point.tag,
    kept: point.source?.register ?? '',
    keptType: point.source?.type ?? ('float32' as DataType),
    keptOrder: point.source?.order ?? ('ABCD' as ByteOrder),
    keptScale: String(point.source?.scale ?? 1),
    register: point.served?.register ?? '',
    type: point.served?.type ?? ('float32' as DataType),
    order: point.served?.order ?? ('ABCD' as ByteOrder),
    shownAt: point.shownAt,
  })
  const [asked, setAsked] = useState(point.asked)
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const kept = readingOf(form.kept)
  const served = readingOf(form.register)
  const scale = parseDecimal(form.keptScale, 'The scale')
  const save = async (event: React.FormEvent) => {
    event.preventDefault()
    if ((served && !served.ok) || (kept && (!kept.ok || !scale.ok))) return
    const { quantity, unit, tag, shownAt, register, type, order, keptType, keptOrder } = form
    try {
      await onSave({
        quantity,
        unit,
        tag,
        shownAt,
        asked,
        decimals: Number(form.decimals),
        served: served ? { register: register.trim(), type, order } : null,
        source:
          kept && scale.ok
            ? { register: form.kept.trim(), type: keptType, order: keptOrder, scale: scale.value }
            : null,
      })
      onClose()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  const set = (name: keyof typeof form) => (value: string) => setForm((before) => ({ ...before, [name]: value }))
  return (
    <Dialog title="What is read" open onClose={onClose} wide>
      <form onSubmit={(event) => void save(event)} noValidate>
        <div className="form-grid">
          <Field label="Quantity" value={form.quantity} onChange={set('quantity')} />
          <Field label="Unit" value={form.unit} onChange={set('unit')} />
          <Field label={`Tag in ${controller}`} value={form.tag} onChange={set('tag')} />
          <Field label="Decimals shown" inputMode="numeric" value={form.decimals} onChange={set('decimals')} />
          <Field
            label={`Register of ${device}`}
            typed
            placeholder="as the terms say"
            value={form.kept}
            trouble={kept && !kept.ok ? kept.refusal : undefined}
            onChange={set('kept')}
          />
          {form.kept.trim() !== '' && (
            <>
              <Choice label={`Kept in ${device} as`} value={form.keptType} choices={types} onChange={set('keptType')} />
              <Choice label="Word order there" value={form.keptOrder} choices={orders} onChange={set('keptOrder')} />
              <Field
                label="Scale there"
                typed
                value={form.keptScale}
                trouble={scale.ok ? undefined : scale.refusal}
                onChange={set('keptScale')}
              />
            </>
          )}
          <Field
            label={`Register where ${controller} serves the tag`}
            typed
            placeholder="none: its value is typed"
            value={form.register}
            trouble={served && !served.ok ? served.refusal : undefined}
            onChange={set('register')}
          />
          <Choice label="Served as" value={form.type} choices={types} onChange={set('type')} />
          <Choice label="Word order of the tag" value={form.order} choices={orders} onChange={set('order')} />
          <Field label="Screen where people see it" placeholder="none" value={form.shownAt} onChange={set('shownAt')} />
          <div className="whole">
            <AskedFor asked={asked} onChange={setAsked} />
          </div>
        </div>
        <Problems reason={trouble} />
        <div className="form-actions">
          <button type="submit" className="act tall">
            Save
          </button>
          {onRemove && (
            <button type="button" className="plain" onClick={() => (onRemove(), onClose())}>
              Remove this point
            </button>
          )}
        </div>
      </form>
    </Dialog>
  )
}

function AskedFor({ asked, onChange }: { asked: boolean; onChange: (next: boolean) => void }) {
  const id = useId()
  return (
    <div className="flex items-center gap-2">
      <Checkbox.Root
        id={id}
        checked={asked}
        onCheckedChange={(next) => onChange(next === true)}
        className="grid size-5 place-items-center rounded-[3px] border border-(--ink-soft) bg-(--sheet)"
      >
        <Checkbox.Indicator>
          <Check size={15} aria-hidden />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id}>Has to be proven before the rung “Reading” is</label>
    </div>
  )
}
