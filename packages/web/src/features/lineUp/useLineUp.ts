import type { DeviceBatch, DeviceFields, NetworkFields, PortFields } from '@calm/contract'
import type { Fix } from '@calm/core/findings'
import type { Device, Job, Network, Port } from '@calm/core/job'
import { useCallback, useState } from 'react'
import { request, useJobChange, type JobChange } from '../../api'

/** A change that can be taken back; the way back is made from the job as it stands then. */
interface Undoable {
  readonly say: string
  readonly back: (job: Job) => JobChange | undefined
}

const portOf = (job: Job, id: string) => job.devices.flatMap((device) => device.ports).find((port) => port.id === id)

const withPort = (job: Job, id: string, change: Partial<Port>): Job => ({
  ...job,
  devices: job.devices.map((device) => ({
    ...device,
    ports: device.ports.map((port) => (port.id === id ? { ...port, ...change } : port)),
  })),
})
const withDevice = (job: Job, id: string, change: Partial<Device>): Job => ({
  ...job,
  devices: job.devices.map((device) => (device.id === id ? { ...device, ...change } : device)),
})

const portChange = (port: Port, change: Partial<PortFields>): JobChange => ({
  method: 'PATCH',
  path: `/ports/${port.id}`,
  body: { ...change, version: port.version },
  // What is saved has the next version, so the row can be edited again at once.
  foresee: (job) => withPort(job, port.id, { ...change, version: port.version + 1 }),
})
const deviceChange = (device: Device, change: Partial<DeviceFields>): JobChange => ({
  method: 'PATCH',
  path: `/devices/${device.id}`,
  body: { ...change, version: device.version },
  foresee: (job) => withDevice(job, device.id, { ...change, version: device.version + 1 }),
})

const before = <T extends object>(row: T, change: Partial<T>): Partial<T> =>
  Object.fromEntries(Object.keys(change).map((field) => [field, row[field as keyof T]])) as Partial<T>

/** Everything that can be done in the line-up, each with its way back. */
export function useLineUp(job: Job) {
  const change = useJobChange(job.id)
  const [done, setDone] = useState<readonly Undoable[]>([])
  const { mutateAsync } = change
  const [problem, setProblem] = useState<unknown>(undefined)
  const remember = useCallback((undoable: Undoable) => setDone((list) => [...list.slice(-49), undoable]), [])

  const editPort = async (device: Device, port: Port, fields: Partial<PortFields>) => {
    await mutateAsync(portChange(port, fields))
    const old = before(port, fields) as Partial<PortFields>
    remember({
      say: `${device.tag} changed.`,
      back: (now) => {
        const row = portOf(now, port.id)
        return row && portChange(row, old)
      },
    })
  }

  const editDevice = async (device: Device, fields: Partial<DeviceFields>) => {
    await mutateAsync(deviceChange(device, fields))
    const old = before(device, fields) as Partial<DeviceFields>
    remember({
      say: `${fields.tag ?? device.tag} changed.`,
      back: (now) => {
        const row = now.devices.find((each) => each.id === device.id)
        return row && deviceChange(row, old)
      },
    })
  }

  const remove = async (device: Device) => {
    await mutateAsync({
      method: 'DELETE',
      path: `/devices/${device.id}`,
      body: { version: device.version },
      foresee: (now) => ({ ...now, devices: now.devices.filter((each) => each.id !== device.id) }),
    })
    remember({ say: `${device.tag} removed.`, back: () => ({ method: 'POST', path: `/devices/${device.id}/restore` }) })
  }

  const removeNetwork = async (network: Network) => {
    await mutateAsync({ method: 'DELETE', path: `/networks/${network.id}`, body: { version: network.version } })
    remember({
      say: `Network ${network.name} removed.`,
      back: () => ({ method: 'POST', path: `/networks/${network.id}/restore` }),
    })
  }

  const editNetwork = (network: Network, fields: Partial<NetworkFields>) =>
    mutateAsync({ method: 'PATCH', path: `/networks/${network.id}`, body: { ...fields, version: network.version } })

  const add = (what: 'networks' | 'devices' | 'handshakes', body: unknown) =>
    mutateAsync({ method: 'POST', path: `/jobs/${job.id}/${what}`, body })

  const addBatch = async (batch: DeviceBatch) => {
    await mutateAsync({ method: 'POST', path: `/jobs/${job.id}/devices/batch`, body: batch })
  }

  const undo = async () => {
    const last = done.at(-1)
    const back = last?.back(job)
    setDone((list) => list.slice(0, -1))
    if (back) await mutateAsync(back)
  }

  /** Does something that has no field of its own to tell its trouble in; the side panel tells it. */
  const attempt = (work: Promise<unknown>) => void work.then(() => setProblem(undefined), setProblem)

  /** A fix of a finding: changes of the plan, row by row. Rows are read afresh, because one edit may touch another. */
  const applyFix = async (fix: Fix) => {
    for (const edit of fix.edits) {
      const value = edit.field === 'prefix' && edit.value !== null ? Number(edit.value) : edit.value
      if (edit.subject.kind === 'network') {
        const network = job.networks.find((each) => each.id === edit.subject.id)
        if (network) await editNetwork(network, { [edit.field]: value })
        continue
      }
      const now = await request<Job>('GET', `/jobs/${job.id}`)
      const device = now.devices.find((each) => each.ports.some((port) => port.id === edit.subject.id))
      const port = device?.ports.find((each) => each.id === edit.subject.id)
      if (device && port) await editPort(device, port, { [edit.field]: value })
    }
  }

  return {
    editPort,
    editDevice,
    editNetwork,
    removeNetwork,
    remove,
    add,
    addBatch,
    undo,
    applyFix,
    last: done.at(-1),
    problem,
    attempt,
  }
}

export type LineUp = ReturnType<typeof useLineUp>
