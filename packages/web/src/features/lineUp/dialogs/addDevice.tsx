import { newRow } from '@calm/contract'
import { formatIpv4, laptopAddresses } from '@calm/core/address'
import { blankDevice, blankPort, type Device, type Job, ladderFor, type Port } from '@calm/core/job'
import { kindsOf } from '@calm/core/kind'
import { nextPosition, proposeAddress } from '@calm/core/lineUp'
import { useRef, useState } from 'react'
import { useLaptop } from '../../../api'
import { problemsIn, useSchemaForm } from '../../../forms'
import { controllersOf } from '../../handshake'
import { busiestNetwork } from '../busiestNetwork'
import type { NewDeviceFields } from '../useLineUp'
import { Choice, Dialog, Field, Problems, Button, formGrid, formActions } from '../../../ui'

type Form = ReturnType<typeof startOf>

const startOf = (job: Job) => ({
  tag: '',
  what: '',
  kind: controllersOf(job).length === 0 ? 'controller' : 'meter',
  networkId: busiestNetwork(job) ?? '',
  address: '',
  tcpPort: String(blankPort.tcpPort),
  unitId: '1',
  behindId: '',
})

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
  const tagField = useRef<HTMLInputElement>(null)
  const [added, setAdded] = useState<readonly string[]>([])
  const form = useSchemaForm({
    start: startOf(job),
    check: (values) => {
      const { device, port } = rowsOf(values, job)
      return [...problemsIn(newDevice, device), ...(port ? problemsIn(newPort, port) : [])]
    },
    send: async (values, reset) => {
      const { device, port } = rowsOf(values, job)
      await onAdd({ ...(device as Device), port: port ?? null })
      setAdded([...added, values.tag])
      // Kind and network stay for the next one; after the first controller mostly what it asks.
      const first = controllersOf(job).length === 0 && values.kind === 'controller'
      reset({ ...values, tag: '', what: '', address: '', kind: first ? 'meter' : values.kind })
      tagField.current?.focus()
    },
  })
  const { kind, networkId, behindId } = form.values
  const proposal = networkId
    ? proposeAddress(job, networkId, kind, laptopAddresses(laptop.data ?? []), ladderFor)
    : undefined
  return (
    <Dialog title="Add a device" open onClose={onClose}>
      <form onSubmit={form.onSubmit} noValidate>
        <div className={formGrid}>
          <Field label="Tag" ref={tagField} {...form.bind('tag')} />
          <Field label="What it is" {...form.bind('what')} />
          <Choice
            label="Kind"
            choices={kindsOf(job.kinds).map(({ id, name }) => ({ value: id, label: name }))}
            {...form.bind('kind')}
          />
          <Choice
            label="Behind"
            choices={[
              { value: '', label: 'nothing: own network port' },
              ...job.devices.map((device) => ({ value: device.id, label: device.tag })),
            ]}
            {...form.bind('behindId')}
          />
          {behindId === '' && (
            <Choice
              label="Network"
              choices={[
                { value: '', label: 'none yet' },
                ...job.networks.map((network) => ({ value: network.id, label: network.name })),
              ]}
              {...form.bind('networkId')}
            />
          )}
          <Field label="Unit id" typed {...form.bind('unitId')} />
          {behindId === '' && (
            <div className="col-span-full grid gap-2">
              <div className="grid grid-cols-[1fr_110px] gap-3">
                <Field label="Planned address" typed {...form.bind('address')} />
                <Field label="TCP port" typed {...form.bind('tcpPort')} />
              </div>
              {proposal && (
                <div>
                  <Button onClick={() => form.set({ address: formatIpv4(proposal.address) })}>
                    Propose a free address: {formatIpv4(proposal.address)}
                  </Button>{' '}
                  <span className="note">{proposal.reasons.join('; ')}.</span>
                </div>
              )}
            </div>
          )}
        </div>
        <Problems reason={form.trouble} />
        <div className={formActions}>
          <Button type="submit" look="act" size="tall">
            Add
          </Button>
          <Button size="tall" onClick={onClose}>
            Close
          </Button>
          <span className="note" role="status">
            {added.length === 0 ? 'Changes the plan only.' : `Added: ${added.join(', ')}. Next one?`}
          </span>
        </div>
      </form>
    </Dialog>
  )
}
