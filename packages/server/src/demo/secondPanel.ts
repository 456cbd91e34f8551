import { randomUUID } from 'node:crypto'
import type { Device, Job } from '@calm/core/job'
import { device, line, network, node, nothingYet, type DeviceLine } from './build'

/** A panel whose devices are set in other ways: switches, a button, an app; and units on a line. Invented. */
export function secondPanel(): Job {
  const process = network({
    name: 'process 2',
    cidr: '10.20.42.0/24',
    gateway: '10.20.42.1',
    vlan: 42,
    dhcp: '10.20.42.150-10.20.42.199',
    reserved: '',
  })
  const meters = line({ name: 'Meter line', medium: 'rs-485-two-wire', family: 'decimal-1-247', settings: '9600 8E1' })
  const devices: Device[] = []
  const add = (fields: DeviceLine): Device => {
    const made = device(fields, devices.length + 1)
    devices.push(made)
    return made
  }
  add({
    tag: 'AIO-121',
    what: 'Analog I/O block',
    kind: 'analog-io',
    network: process,
    address: '10.20.42.21',
    unitId: 1,
    asFound: 'switches at 0',
    more: { place: 'panel 3', isolation: 'Q21', orderCode: 'AB-8-D', setting: 'rotary-switch' },
  })
  const gateway = add({
    tag: 'GW-241',
    what: 'Gateway with two flow meters',
    kind: 'gateway',
    network: process,
    address: '10.20.42.41',
    unitId: 255,
    asFound: '192.168.62.5',
    more: { place: 'panel 3', isolation: 'Q22', orderCode: 'GB-2-S', nodes: [node(meters, null, { isMaster: true })] },
  })
  const behind = (tag: string, what: string, kind: string, unit: number) =>
    add({
      tag,
      what,
      kind,
      unitId: unit,
      asFound: `unit ${unit}`,
      behind: gateway,
      more: { place: 'pump hall', isolation: 'Q22', nodes: [node(meters, unit)] },
    })
  behind('FM-241', 'Flow meter, inlet', 'field-device', 11)
  behind('EM-242', 'Energy meter of the pump', 'meter', 12)
  add({
    tag: 'CV-131',
    what: 'Integrated motor of the feeder',
    kind: 'integrated-motor',
    network: process,
    address: '10.20.42.31',
    unitId: 1,
    asFound: '10.20.42.99',
    more: { place: 'feed store', isolation: 'Q24', orderCode: 'IM-1-K', setting: 'keypad-last-octet' },
  })
  add({
    tag: 'RIO-132',
    what: 'Remote I/O head, battery room',
    kind: 'remote-io',
    network: process,
    address: '10.20.42.32',
    unitId: 1,
    asFound: '192.168.66.32',
    more: {
      place: 'battery room',
      isolation: 'Q25',
      orderCode: 'RH-4D-C',
      setting: 'discovery-tool',
      effective: 'self-restart',
    },
  })
  add({
    tag: 'EM-133',
    what: 'Energy meter of the battery',
    kind: 'meter',
    network: process,
    address: '10.20.42.33',
    unitId: 1,
    asFound: '192.168.66.70',
    more: {
      place: 'battery room',
      isolation: 'Q26',
      orderCode: 'EM-1M-P',
      effective: 'self-restart',
      startUpSeconds: 25,
    },
  })
  add({
    tag: 'INV-321',
    what: 'Hybrid inverter',
    kind: 'inverter',
    network: process,
    address: '10.20.42.60',
    unitId: 1,
    asFound: 'its own access point',
    more: { place: 'battery room', isolation: 'Q23', orderCode: 'HI-10-B' },
  })
  return {
    id: randomUUID(),
    version: 1,
    name: 'Second panel',
    place: 'panel 3, as delivered',
    mode: 'bench',
    ...nothingYet,
    networks: [process],
    lines: [meters],
    devices,
    handshakes: [],
    forced: [],
  }
}
