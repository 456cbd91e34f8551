import { randomUUID } from 'node:crypto'
import type { Device, Job } from '@calm/core/job'
import { device, line, network, node, nothingYet, type DeviceLine } from './build'

/** The panel of Heron Mill as it was delivered: everything at its factory address, to rehearse first contact on. Invented. */
export function rehearsal(): Job {
  const process = network({
    name: 'process',
    cidr: '10.20.40.0/24',
    gateway: '10.20.40.1',
    vlan: 40,
    dhcp: '10.20.40.150-10.20.40.199',
    reserved: '10.20.40.240-10.20.40.254',
  })
  const office = network({
    name: 'office edge',
    cidr: '10.20.41.0/24',
    gateway: '10.20.41.1',
    vlan: 41,
    dhcp: '',
    reserved: '',
  })
  const scanner = line({ name: 'Scanner line', medium: 'rs-232', family: 'decimal-1-247', settings: '115200 8N1' })
  const row = line({ name: 'Meter row', medium: 'rs-485-two-wire', family: 'decimal-1-247', settings: '9600 8E1' })
  const devices: Device[] = []
  const add = (fields: DeviceLine): Device => {
    const made = device(fields, devices.length + 1)
    devices.push(made)
    return made
  }
  const on = (
    tag: string,
    what: string,
    kind: string,
    last: number,
    asFound: string,
    isolation: string,
    more: DeviceLine['more'] = {},
  ) =>
    add({
      tag,
      what,
      kind,
      network: process,
      address: `10.20.40.${last}`,
      unitId: 1,
      asFound,
      more: { place: 'panel 2', isolation, ...more },
    })
  on('PLC-101', 'Compact controller', 'controller', 10, '10.20.40.10', 'Q1')
  on('PD-101', 'Duty pump drive, 11 kW', 'drive', 21, '192.168.1.20', 'Q11', { orderCode: 'VD-110-4-E' })
  on('PD-102', 'Standby drive, 7.5 kW', 'drive', 22, '192.168.1.20', 'Q12', { orderCode: 'VD-075-4-E' })
  on('RIO-111', 'Remote I/O head', 'remote-io', 30, '192.168.66.30', 'Q5', {
    orderCode: 'RH-8D2A4Q-C',
    setting: 'web-page',
    effective: 'self-restart',
  })
  const head = on('MH-510', 'Meter head', 'gateway', 55, '10.20.40.55', 'Q3', {
    setting: 'engineering-tool',
    effective: 'at-once',
    startUpSeconds: 20,
    nodes: [node(row, null, { isMaster: true })],
  })
  for (const unit of [1, 2, 3])
    add({
      tag: `MM-51${unit}`,
      what: `Meter module ${unit}`,
      kind: 'modular-meter',
      unitId: unit,
      asFound: 'unit 1',
      behind: head,
      more: { place: 'panel 2', isolation: 'Q3', nodes: [node(row, unit)] },
    })
  on('UPS-401', 'UPS network card', 'ups-card', 61, '192.168.66.20', 'Q4', { orderCode: 'UC-S1' })
  on('RCU-301', 'Remote-control unit, in service', 'remote-control-unit', 70, '10.20.40.70', 'Q9', {
    orderCode: 'RC-4',
  })
  const server = on('SC-701', 'Serial device server', 'device-server', 80, '192.168.66.80', 'Q7', {
    orderCode: 'SS-1R',
    setting: 'web-page',
    effective: 'self-restart',
    startUpSeconds: 40,
    nodes: [node(scanner, null, { isMaster: true })],
  })
  add({
    tag: 'BS-701',
    what: 'Bag-tag scanner',
    kind: 'code-reader',
    asFound: 'not here yet',
    behind: server,
    more: { textPort: 4001, place: 'feed store', isolation: 'Q7', nodes: [node(scanner, 1)] },
  })
  add({
    tag: 'SUP-801',
    what: 'Supervisory controller',
    kind: 'supervisor',
    network: office,
    address: '10.20.41.200',
    mac: '02:5E:0B:10:80:01',
    school: 'dhcp-reservation',
    asFound: 'lease by MAC',
    more: {
      place: 'office',
      isolation: 'socket',
      hostName: 'sup-801',
      firmwareFound: '2.3',
      firmwareNeeded: '12.0',
      firmwareRelation: 'not-above',
      namePlaces: [{ where: 'In the server', text: 'sup-801' }],
    },
  })
  return {
    id: randomUUID(),
    version: 1,
    name: 'First contact rehearsal',
    place: 'pump house panel, as delivered',
    mode: 'bench',
    ...nothingYet,
    networks: [process, office],
    lines: [scanner, row],
    devices,
    handshakes: [],
    forced: [],
  }
}
