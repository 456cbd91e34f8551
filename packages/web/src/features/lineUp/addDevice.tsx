import { newRow, problemsOf, type Problem } from '@calm/contract'
import { formatIpv4, laptopAddresses } from '@calm/core/address'
import { blankDevice, blankPort, type Device, type Job, ladderFor, type Port } from '@calm/core/job'
import { kindsOf } from '@calm/core/kind'
import { nextPosition, proposeAddress } from '@calm/core/lineUp'
import { useRef, useState } from 'react'
import { Controller, useForm } from 'react-hook-form'
import { ProblemError, useLaptop } from '../../api'
import { controllersOf } from '../handshake'
import { busiestNetwork } from './busiestNetwork'
import type { NewDeviceFields } from './useLineUp'
import { Choice, Dialog, Field, Problems } from '../../ui'

const STRICT = { abortEarly: false, convert: false }

interface Form {
  readonly tag: string
  readonly what: string
  readonly kind: string
  readonly networkId: string
  readonly address: string
  readonly tcpPort: string
  readonly unitId: string
  readonly behindId: string
}

/** A number where it is one; anything else stays as it was typed, so that the schema can say what was found. */
const numberOr = (typed: string, blank: number | null): number | string | null => {
  const text = typed.trim()
  return text === '' ? blank : /^\d+$/.test(text) ? Number(text) : text
}

/** The form as it travels. */
function rowsOf(form: Form, job: Job): { readonly device: object; readonly port: object | undefined } {
  const network = job.networks.find((each) => each.id === form.networkId)
  const device = {
    ...blankDevice,
    position: nextPosition(job),
    tag: form.tag.trim(),
    what: form.what.trim(),
    kind: form.kind,
    behindId: form.behindId || null,
    unitId: numberOr(form.unitId, null),
  }
  const port = {
    ...blankPort,
    networkId: form.networkId || null,
    address: form.address.trim() || null,
    gateway: network?.gateway ?? null,
    tcpPort: numberOr(form.tcpPort, blankPort.tcpPort),
  }
  return { device, port: form.behindId ? undefined : port }
}

const newDevice = newRow('device')
/** A port names its device, which gets its id when it is added. */
const newPort = newRow('port')

/** A new device: its tag is enough; the rest can be filled in the table. The form stays for the next one. */
export default function AddDevice({
  job,
  onAdd,
  onClose,
}: {
  job: Job
  onAdd: (device: NewDeviceFields & { readonly port: Partial<Port> | null }) => Promise<unknown>
  onClose: () => void
}) {
  const laptop = useLaptop()
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const tagField = useRef<HTMLInputElement>(null)
  const [added, setAdded] = useState<readonly string[]>([])
  const { control, handleSubmit, watch, setValue, reset } = useForm<Form>({
    defaultValues: {
      tag: '',
      what: '',
      kind: controllersOf(job).length === 0 ? 'controller' : 'meter',
      networkId: busiestNetwork(job) ?? '',
      address: '',
      tcpPort: String(blankPort.tcpPort),
      unitId: '1',
      behindId: '',
    },
  })
  const kind = watch('kind')
  const networkId = watch('networkId')
  const behindId = watch('behindId')
  const proposal = networkId
    ? proposeAddress(job, networkId, kind, laptopAddresses(laptop.data ?? []), ladderFor)
    : undefined

  const save = handleSubmit(async (form) => {
    setTrouble(undefined)
    const { device, port } = rowsOf(form, job)
    const checked = [newDevice.validate(device, STRICT), ...(port ? [newPort.validate(port, STRICT)] : [])]
    const found = checked.flatMap(({ error }) => (error ? problemsOf(error) : []))
    if (found.length > 0) return setProblems(found)
    setProblems([])
    try {
      await onAdd({ ...(device as Device), port: port ?? null })
      setAdded([...added, form.tag.trim()])
      // Kind and network stay for the next one; after the first controller mostly what it asks.
      const first = controllersOf(job).length === 0 && form.kind === 'controller'
      reset({ ...form, tag: '', what: '', address: '', kind: first ? 'meter' : form.kind })
      tagField.current?.focus()
    } catch (reason) {
      if (reason instanceof ProblemError && reason.problems.every((problem) => problem.where !== ''))
        setProblems(reason.problems)
      else setTrouble(reason)
    }
  })
  const troubleAt = (where: string) => problems.find((problem) => problem.where === where)
  const text = (name: keyof Form, label: string, typed = false) => (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <Field
          label={label}
          typed={typed}
          value={field.value}
          onChange={field.onChange}
          ref={name === 'tag' ? tagField : undefined}
          trouble={troubleAt(name)}
        />
      )}
    />
  )
  const choice = (name: keyof Form, label: string, choices: readonly { value: string; label: string }[]) => (
    <Controller
      control={control}
      name={name}
      render={({ field }) => <Choice label={label} value={field.value} choices={choices} onChange={field.onChange} />}
    />
  )
  return (
    <Dialog title="Add a device" open onClose={onClose}>
      <form onSubmit={(event) => void save(event)} noValidate>
        <div className="form-grid">
          {text('tag', 'Tag')}
          {text('what', 'What it is')}
          {choice(
            'kind',
            'Kind',
            kindsOf(job.kinds).map(({ id, name }) => ({ value: id, label: name })),
          )}
          {choice('behindId', 'Behind', [
            { value: '', label: 'nothing: own network port' },
            ...job.devices.map((device) => ({ value: device.id, label: device.tag })),
          ])}
          {behindId === '' &&
            choice('networkId', 'Network', [
              { value: '', label: 'none yet' },
              ...job.networks.map((network) => ({ value: network.id, label: network.name })),
            ])}
          {text('unitId', 'Unit id', true)}
          {behindId === '' && (
            <div className="whole grid gap-2">
              <div className="grid grid-cols-[1fr_110px] gap-3">
                {text('address', 'Planned address', true)}
                {text('tcpPort', 'TCP port', true)}
              </div>
              {proposal && (
                <div>
                  <button
                    type="button"
                    className="quiet"
                    onClick={() => setValue('address', formatIpv4(proposal.address))}
                  >
                    Propose a free address: {formatIpv4(proposal.address)}
                  </button>{' '}
                  <span className="note">{proposal.reasons.join('; ')}.</span>
                </div>
              )}
            </div>
          )}
        </div>
        <Problems reason={trouble} />
        <div className="form-actions">
          <button type="submit" className="act tall">
            Add
          </button>
          <button type="button" className="quiet tall" onClick={onClose}>
            Close
          </button>
          <span className="note" role="status">
            {added.length === 0 ? 'Changes the plan only.' : `Added: ${added.join(', ')}. Next one?`}
          </span>
        </div>
      </form>
    </Dialog>
  )
}
