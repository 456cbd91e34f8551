import type { Point } from '@calm/core/job'
import { parseReference } from '@calm/core/modbus'
import { byteOrders, dataTypes, parseDecimal, type ByteOrder, type DataType } from '@calm/core/values'
import { newRow, type Problem } from '@calm/contract'
import { againstPart, useSchemaForm } from '../../forms'
import { Checkbox, Choice, Dialog, Field, formGrid, Problems, SaveRow } from '../../ui'

interface PointDialogProps {
  readonly point: Point
  readonly controller: string
  readonly device: string
  readonly onSave: (change: Partial<Point>) => Promise<unknown>
  /** Left out for the last point: a handshake has something to prove. */
  readonly onRemove: (() => void) | undefined
  readonly onClose: () => void
}

const types = (Object.keys(dataTypes) as DataType[]).map((value) => ({ value, label: dataTypes[value].name }))
const orders = (Object.keys(byteOrders) as ByteOrder[]).map((value) => ({
  value,
  label: `${value}, ${byteOrders[value].name}`,
}))

/** A register reference as far as it was typed; blank is no mistake. */
const readingOf = (register: string) => (register.trim() === '' ? undefined : parseReference(register))

const formOf = (point: Point) => ({
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
  asked: point.asked,
})
type Form = ReturnType<typeof formOf>

/** The form as it travels. A number that is none stays as it was typed, so that the schema can say what was found. */
function fieldsOf(form: Form): Partial<Point> {
  const { quantity, unit, tag, shownAt, asked, register, type, order, keptType, keptOrder } = form
  const scale = parseDecimal(form.keptScale, 'The scale')
  return {
    quantity,
    unit,
    tag,
    shownAt,
    asked,
    decimals: /^\d+$/.test(form.decimals) ? Number(form.decimals) : (form.decimals as unknown as number),
    served: register === '' ? null : { register, type, order },
    source:
      form.kept === ''
        ? null
        : { register: form.kept, type: keptType, order: keptOrder, scale: scale.ok ? scale.value : 1 },
  }
}

/** What cannot be read as a register or a number, at its field. */
function unreadable(form: Form): readonly Problem[] {
  const readings = { kept: readingOf(form.kept), register: readingOf(form.register) }
  const scale = form.kept === '' ? undefined : parseDecimal(form.keptScale, 'The scale')
  return Object.entries({ ...readings, keptScale: scale }).flatMap(([where, reading]) =>
    reading && !reading.ok ? [{ ...reading.refusal, where }] : [],
  )
}

const checkFields = againstPart<Partial<Point>>(newRow('point'))

/** What travels: the quantity, where the device keeps it, where the controller serves it, and where people see it. */
export function PointDialog({ point, controller, device, onSave, onRemove, onClose }: PointDialogProps) {
  const form = useSchemaForm({
    start: formOf(point),
    atOnce: ['kept', 'register', 'keptScale'],
    check: (values) => [...unreadable(values), ...checkFields(fieldsOf(values))],
    send: (values) => onSave(fieldsOf(values)).then(onClose),
  })
  return (
    <Dialog title="What is read" open onClose={onClose} room="wide">
      <form onSubmit={form.onSubmit} noValidate>
        <div className={formGrid}>
          <Field label="Quantity" {...form.bind('quantity')} />
          <Field label="Unit" {...form.bind('unit')} />
          <Field label={`Tag in ${controller}`} {...form.bind('tag')} />
          <Field label="Decimals shown" inputMode="numeric" {...form.bind('decimals')} />
          <Field label={`Register of ${device}`} typed placeholder="as the terms say" {...form.bind('kept')} />
          {form.values.kept.trim() !== '' && (
            <>
              <Choice label={`Kept in ${device} as`} choices={types} {...form.bind('keptType')} />
              <Choice label="Word order there" choices={orders} {...form.bind('keptOrder')} />
              <Field label="Scale there" typed {...form.bind('keptScale')} />
            </>
          )}
          <Field
            label={`Register where ${controller} serves the tag`}
            typed
            placeholder="none: its value is typed"
            {...form.bind('register')}
          />
          <Choice label="Served as" choices={types} {...form.bind('type')} />
          <Choice label="Word order of the tag" choices={orders} {...form.bind('order')} />
          <Field label="Screen where people see it" placeholder="none" {...form.bind('shownAt')} />
          <Checkbox
            className="col-span-full"
            label="Has to be proven before the rung “Reading” is"
            checked={form.values.asked}
            onChange={(asked) => form.set({ asked })}
          />
        </div>
        <Problems reason={form.trouble} />
        <SaveRow remove={onRemove && { name: 'this point', onRemove: () => (onRemove(), onClose()) }} />
      </form>
    </Dialog>
  )
}
