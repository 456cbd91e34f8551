import type { Job } from '@calm/core/job'
import { deviceColumns } from '@calm/core/lineUp'

/** A head and its rows, all texts. */
export interface Table {
  readonly name: string
  readonly head: readonly string[]
  readonly rows: readonly (readonly string[])[]
}

/** All devices with all columns, in their order; what is written here is read back as it was. */
export function deviceTable(job: Job): Table {
  return {
    name: 'Devices',
    head: deviceColumns.map((column) => column.name),
    rows: job.devices.map((device) => deviceColumns.map((column) => column.text(device, job))),
  }
}

export function networkTable(job: Job): Table {
  return {
    name: 'Networks',
    head: ['Network', 'CIDR', 'Gateway', 'VLAN', 'DHCP ranges', 'Reserved ranges'],
    rows: job.networks.map((network) => [
      network.name,
      network.cidr,
      network.gateway ?? '',
      network.vlan === null ? '' : String(network.vlan),
      network.dhcp,
      network.reserved,
    ]),
  }
}
