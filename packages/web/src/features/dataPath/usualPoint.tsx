import { blankPoint, deviceOf, type Handshake, type Job } from '@calm/core/job'
import { kindFacts } from '@calm/core/kind'
import { parseReference } from '@calm/core/modbus'
import { usualOrder } from '@calm/core/points'
import { byteOrders, dataTypes, type ByteOrder, type DataType } from '@calm/core/values'
import { useState } from 'react'
import { newId } from '../../api'
import type { JobEdit } from '../../edit'
import { Button, Choice, cn, Dialog, Field, formActions, Problems } from '../../ui'

interface UsualProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly edit: JobEdit
  readonly onClose: () => void
}

const TYPES: readonly DataType[] = ['uint16', 'int16', 'uint32', 'int32', 'float32', 'bool']

/** What is usually wanted of this kind of device and is not a point yet. */
export function usualOf(job: Job, handshake: Handshake) {
  const kind = kindFacts(deviceOf(job, handshake.deviceId)?.kind ?? '', job.kinds)
  const there = new Set(handshake.points.map(({ quantity }) => quantity))
  return (kind.usual ?? []).filter(({ quantity }) => !there.has(quantity))
}

/** A quantity that is usual for the kind, with the register that the manual says: never one that is guessed. */
export function UsualPoint({ job, handshake, edit, onClose }: UsualProps) {
  const usual = usualOf(job, handshake)
  const [wanted, setWanted] = useState(usual[0]?.quantity ?? '')
  const [register, setRegister] = useState('')
  const [type, setType] = useState<DataType>('float32')
  const [order, setOrder] = useState<ByteOrder>(() => usualOrder(handshake))
  const reference = parseReference(register)
  const one = usual.find(({ quantity }) => quantity === wanted) ?? usual[0]
  const add = () => {
    if (!one || !reference.ok) return
    const device = deviceOf(job, handshake.deviceId)?.tag ?? ''
    const blank = blankPoint(device)
    const fields = {
      ...blank,
      ...one,
      tag: blank.tag.replace(/Value$/, one.quantity.replace(/[^A-Za-z0-9]+/g, '_')),
      position: Math.max(-1, ...handshake.points.map((point) => point.position)) + 1,
      source: { register: register.trim(), type, order, scale: 1 },
      asked: false,
      handshakeId: handshake.id,
    }
    edit.attempt(
      edit.change(`${one.quantity} added.`, [{ op: 'add', table: 'point', id: newId(), fields }]).then(() => {
        setRegister('')
        if (usual.length === 1) onClose()
      }),
    )
  }
  if (!one) return null
  return (
    <Dialog
      title="What is usually wanted"
      say="Quantity and unit are usual for this kind. Its manual says the register."
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault()
          add()
        }}
      >
        <div className="mt-3 grid grid-cols-4 gap-3 max-phone:grid-cols-1">
          <Choice
            label="Quantity"
            value={one.quantity}
            choices={usual.map(({ quantity, unit }) => ({
              value: quantity,
              label: unit === '' ? quantity : `${quantity}, ${unit}`,
            }))}
            onChange={setWanted}
          />
          <Field
            label="Register"
            typed
            placeholder="40011"
            value={register}
            trouble={register.trim() === '' || reference.ok ? undefined : reference.refusal}
            onChange={setRegister}
          />
          <Choice
            label="Type"
            value={type}
            choices={TYPES.map((value) => ({ value, label: dataTypes[value].name }))}
            onChange={setType}
          />
          <Choice
            label="Order"
            value={order}
            choices={(Object.keys(byteOrders) as ByteOrder[]).map((value) => ({
              value,
              label: `${value}, ${byteOrders[value].name}`,
            }))}
            onChange={setOrder}
          />
        </div>
        <Problems reason={edit.problem} />
        <div className={cn(formActions, 'mt-4')}>
          <Button look="act" type="submit" disabled={!reference.ok}>
            Add this point
          </Button>
        </div>
      </form>
    </Dialog>
  )
}
