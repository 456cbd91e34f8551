import { rowIn, type Change } from '@calm/core/changes'
import type { Edit, Finding, Fix } from '@calm/core/findings'
import { blankDevice, blankPort, type Device, type Job, type Network, type Port } from '@calm/core/job'
import { adoptedBy, nextPosition, type Adopted } from '@calm/core/lineUp'
import { newId } from '../../api'
import { useEdit, type NamedRow } from '../../edit'

/** What is said of a row; what is not said keeps what stands there, or is blank. */
type Said<T> = Partial<Omit<T, 'id' | 'version'>>
export type NewDeviceFields = Said<Omit<Device, 'ports' | 'nodes'>> & Pick<Device, 'tag' | 'kind'>
export type NetworkFields = Omit<Network, 'id' | 'version' | 'school'> & Partial<Pick<Network, 'school'>>

/** Fields of findings' fixes that are numbers in the job. */
const NUMBERS = new Set(['prefix', 'unitId', 'node', 'startUpSeconds', 'handsOnSeconds'])

/** Everything that can be done in the line-up, each with its way back. */
export function useLineUp(job: Job) {
  const edit = useEdit(job)
  const { now, change, set, removeRow } = edit

  const editPort = (device: Device, port: Port, fields: Said<Port>) =>
    set(`${device.tag} changed.`, 'port', port, fields)
  const editDevice = (device: Device, fields: Said<Omit<Device, 'ports' | 'nodes'>>) =>
    set(`${fields.tag ?? device.tag} changed.`, 'device', device, fields)
  const remove = (device: Device) => removeRow(`${device.tag} removed.`, 'device', device)
  const removeNetwork = (network: Network) => removeRow(`Network ${network.name} removed.`, 'network', network)
  /** A network that gets another block takes in what lies there and says no network; said with it. */
  const editNetwork = (network: Network, fields: Partial<NetworkFields>) => {
    const taken = adoptedBy(now(), { ...network, ...fields })
    return change(takenText(taken, fields.name ?? network.name) ?? `Network ${fields.name ?? network.name} changed.`, [
      { op: 'set', table: 'network', id: network.id, version: network.version, fields },
      ...taken.changes,
    ])
  }
  const addNetwork = (fields: NetworkFields) => {
    const id = newId()
    const taken = adoptedBy(now(), { ...fields, id })
    return change(takenText(taken, fields.name) ?? `Network ${fields.name} added.`, [
      { op: 'add', table: 'network', id, fields: { school: 'static', ...fields } },
      ...taken.changes,
    ])
  }

  /** A new device, with its port where it has one. */
  const addDevice = ({ port, ...fields }: NewDeviceFields & { readonly port: Said<Port> | null }) => {
    const id = newId()
    return change(`${fields.tag} added.`, [
      { op: 'add', table: 'device', id, fields: { ...blankDevice, position: nextPosition(now()), ...fields } },
      ...(port
        ? [{ op: 'add', table: 'port', id: newId(), fields: { ...blankPort, ...port, deviceId: id } } as const]
        : []),
    ])
  }

  /** A fix of a finding: changes of the plan, all of them or none. */
  const applyFix = (fix: Fix) =>
    change(
      `${fix.label}: done.`,
      fix.edits.flatMap((edit) => changeOf(now(), edit) ?? []),
    )

  /** Findings of one matter let stand, all of them or none. */
  const accept = (matter: readonly [Finding, ...Finding[]], reason: string) =>
    change(
      `"${matter[0].title}" accepted.`,
      matter.map(({ rule, subject, found }) => ({
        op: 'add',
        table: 'acceptance',
        id: newId(),
        fields: { rule, subjectId: subject.id, found, reason },
      })),
    )

  const takeUpAgain = (finding: Finding, acceptances: readonly NamedRow[]) =>
    change(
      `"${finding.title}" stands again.`,
      acceptances.map(({ id, version }) => ({ op: 'remove', table: 'acceptance', id, version })),
    )

  return {
    ...edit,
    editPort,
    editDevice,
    editNetwork,
    removeNetwork,
    remove,
    addNetwork,
    addDevice,
    applyFix,
    accept,
    takeUpAgain,
  }
}

/** The head has room for a few words: what is new comes first. */
const takenText = ({ deviceCount }: Adopted, name: string): string | undefined =>
  deviceCount === 0 ? undefined : `${deviceCount === 1 ? 'One device' : `${deviceCount} devices`} came into ${name}.`

export type LineUp = ReturnType<typeof useLineUp>

function changeOf(job: Job, { subject, field, value }: Edit): Change | undefined {
  if (subject.kind === 'laptop' || subject.kind === 'handshake') return undefined
  const row = rowIn(job, subject.kind, subject.id)
  if (!row) return undefined
  const typed = value !== null && NUMBERS.has(field) ? Number(value) : value
  return { op: 'set', table: subject.kind, id: subject.id, version: row.version, fields: { [field]: typed } }
}
