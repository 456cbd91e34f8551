import type { Rung } from '../ladder'
import type { DeviceKind } from './model'

export interface DeviceKindFacts {
  readonly name: string
  /** Last octets that a job usually keeps for this kind, lowest and highest. */
  readonly block: readonly [number, number]
  /** Rungs that this kind does not need; a person may overrule. */
  readonly notApplying: readonly Rung[]
}

/** @source common practice, no source */
export const deviceKinds: Readonly<Record<DeviceKind, DeviceKindFacts>> = {
  controller: { name: 'Controller', block: [10, 19], notApplying: [] },
  drive: { name: 'Drive', block: [20, 29], notApplying: [] },
  'remote-io': { name: 'Remote I/O', block: [30, 39], notApplying: [] },
  gateway: { name: 'Gateway', block: [40, 49], notApplying: ['writing'] },
  'field-device': { name: 'Field device', block: [100, 149], notApplying: ['writing'] },
  meter: { name: 'Energy meter', block: [50, 59], notApplying: ['writing'] },
  inverter: { name: 'Inverter', block: [60, 69], notApplying: [] },
  'ups-card': { name: 'UPS card', block: [70, 79], notApplying: ['writing'] },
  'device-server': { name: 'Device server', block: [80, 89], notApplying: ['writing'] },
  'code-reader': { name: 'Code reader', block: [90, 99], notApplying: ['writing'] },
  supervisor: { name: 'Supervisor', block: [200, 209], notApplying: ['writing'] },
}
