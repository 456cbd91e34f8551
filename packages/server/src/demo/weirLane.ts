import { randomUUID } from 'node:crypto'
import type { Job } from '@calm/core/job'
import { device, network, nothingYet } from './build'

/** A job that has only just begun. Invented. */
export function weirLane(): Job {
  const panel = network({ name: 'panel', cidr: '10.30.1.0/24', gateway: null, vlan: null, dhcp: '', reserved: '' })
  return {
    id: randomUUID(),
    version: 1,
    name: 'Weir Lane lift station',
    place: 'panel 1',
    mode: 'bench',
    ...nothingYet,
    networks: [panel],
    devices: [
      device(
        {
          tag: 'PLC-1',
          what: 'Compact controller',
          kind: 'controller',
          network: panel,
          address: '10.30.1.10',
          unitId: 255,
          asFound: 'unknown',
        },
        1,
      ),
    ],
    handshakes: [],
    forced: [],
  }
}
