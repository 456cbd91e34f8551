import { randomUUID } from 'node:crypto'
import type { Device, Handshake, Job } from '@calm/core/job'
import {
  device,
  handshake,
  line,
  network,
  node,
  nothingYet,
  row,
  type DeviceLine,
  type PointLine,
  type TermLine,
} from './build'
import { WHO, withHistory } from './heronMillHistory'

const DAY = 86_400_000
const day = (at: number): string => new Date(at).toISOString().slice(0, 10)

/** Where these meters show what they are set to. Made up, as the meters are. */
const mirroredByMeters: Handshake['mirrors'] = [
  { termId: 'line-settings', text: '40021: 0 = 9600 8N1, 1 = 9600 8E1, 2 = 9600 8N2, 3 = 19200 8N1, 4 = 19200 8E1' },
  { termId: 'unit-id', text: '40022' },
  { termId: 'word-order', text: '40023: 0 = ABCD, 1 = CDAB' },
]

/** The pump house of a small fish hatchery, half-way through its commissioning. Invented. */
export function heronMill(now: number): Job {
  const process = network({
    name: 'process',
    cidr: '10.20.40.0/24',
    gateway: '10.20.40.1',
    vlan: 40,
    dhcp: '10.20.40.150-10.20.40.199',
    reserved: '10.20.40.2-10.20.40.9, 10.20.40.240-10.20.40.254',
  })
  const office = network({
    name: 'office edge',
    cidr: '10.20.41.0/24',
    gateway: '10.20.41.1',
    vlan: 41,
    dhcp: '',
    reserved: '',
  })

  const serial = line({
    name: 'Pump house serial',
    medium: 'rs-485-two-wire',
    family: 'decimal-1-247',
    settings: '9600 8N1',
  })
  const scanner = line({ name: 'Scanner line', medium: 'rs-232', family: 'decimal-1-247', settings: '115200 8N1' })

  const devices: Device[] = []
  const add = (line: DeviceLine): Device => {
    const made = device(line, devices.length + 1)
    devices.push(made)
    return made
  }
  const plc = add({
    tag: 'PLC-101',
    what: 'Compact controller',
    kind: 'controller',
    network: process,
    address: '10.20.40.10',
    unitId: 255,
    more: {
      place: 'panel 1',
      isolation: 'Q1',
      orderCode: 'CC-16D8A-2E',
      orderCodeFound: 'CC-16D8A-2E',
      serialNumber: 'K4 20117',
      firmwareFound: '4.12',
      hostName: 'plc-101',
    },
    asFound: '10.20.40.10',
  })
  const pd1 = add({
    tag: 'PD-101',
    what: 'Duty pump drive, 11 kW',
    kind: 'drive',
    network: process,
    address: '10.20.40.21',
    unitId: 1,
    more: {
      place: 'panel 2',
      isolation: 'Q11',
      orderCode: 'VD-110-4-E',
      orderCodeFound: 'VD-110-4-E',
      firmwareFound: '1.10',
      firmwareNeeded: '1.9',
      firmwareRelation: 'at-least',
    },
    asFound: '10.20.40.21',
  })
  const pd2 = add({
    tag: 'PD-102',
    what: 'Standby drive, 7.5 kW',
    kind: 'drive',
    network: process,
    address: '10.20.40.22',
    unitId: 1,
    more: {
      place: 'panel 2',
      isolation: 'Q12',
      orderCode: 'VD-075-4-E',
      firmwareNeeded: '1.9',
      firmwareRelation: 'at-least',
    },
    asFound: '192.168.1.20',
  })
  const rio = add({
    tag: 'RIO-111',
    what: 'Remote I/O head',
    kind: 'remote-io',
    network: process,
    address: '10.20.40.30',
    unitId: 1,
    more: { place: 'drum filter', isolation: 'Q5', orderCode: 'RH-8D2A4Q-C' },
    asFound: 'no address yet',
  })
  const gw = add({
    tag: 'GW-201',
    what: 'Gateway to serial',
    kind: 'gateway',
    network: process,
    address: '10.20.40.40',
    more: { place: 'panel 1', isolation: 'Q1', orderCode: 'MG-1S-E', nodes: [node(serial, null, { isMaster: true })] },
    asFound: '10.20.40.40',
  })
  const behind = (tag: string, what: string, unitId: number, asFound: string) =>
    add({
      tag,
      what,
      kind: 'field-device',
      unitId,
      asFound,
      behind: gw,
      more: { place: 'pump house', nodes: [node(serial, unitId)] },
    })
  const fm1 = behind('FM-201', 'Flow, intake', 1, 'unit 1')
  const fm2 = behind('FM-202', 'Flow, raceway A', 2, 'unit 2')
  const fm3 = behind('FM-203', 'Flow, raceway B', 3, 'unit 3')
  behind('FM-204', 'Flow, return', 4, 'unit 1')
  behind('OT-211', 'Oxygen transmitter', 11, 'not seen yet')
  const meter = add({
    tag: 'EM-501',
    what: 'Energy meter',
    kind: 'meter',
    network: process,
    address: '10.20.40.50',
    unitId: 1,
    more: { place: 'panel 3', isolation: 'Q3', orderCode: 'PM-3C-E' },
    asFound: '192.168.66.70',
  })
  const inverter = add({
    tag: 'INV-301',
    what: 'Hybrid inverter, battery',
    kind: 'inverter',
    network: process,
    address: '10.20.40.60',
    unitId: 3,
    more: { place: 'plant room', isolation: 'Q31', hostName: 'inv-301' },
    asFound: '10.20.40.157',
  })
  add({
    tag: 'UPS-401',
    what: 'UPS network card',
    kind: 'ups-card',
    network: process,
    address: '10.20.40.60',
    unitId: 1,
    more: { place: 'plant room', isolation: 'Q4', orderCode: 'UC-S1' },
    asFound: '192.168.66.20',
  })
  const sc = add({
    tag: 'SC-701',
    what: 'Serial device server',
    kind: 'device-server',
    network: process,
    address: '10.20.40.80',
    more: {
      place: 'feed store',
      isolation: 'Q7',
      orderCode: 'SS-1R',
      nodes: [node(scanner, null, { isMaster: true })],
    },
    asFound: 'not here yet',
  })
  add({
    tag: 'BS-701',
    what: 'Bag-tag scanner',
    kind: 'code-reader',
    asFound: 'not here yet',
    behind: sc,
    more: { textPort: 4001, place: 'feed store', nodes: [node(scanner, null)] },
  })
  const supervisor = add({
    tag: 'SUP-801',
    what: 'Supervisory controller',
    kind: 'supervisor',
    network: office,
    address: '10.20.41.200',
    more: {
      place: 'office',
      isolation: 'socket',
      hostName: 'sup-801',
      firmwareNeeded: '12.0',
      firmwareRelation: 'not-above',
      namePlaces: [{ where: 'In the server', text: 'sup-801' }],
    },
    mac: '02:5E:0B:80:01:2C',
    school: 'dhcp-reservation',
    asFound: 'lease by MAC',
  })

  const address = (of: Device) => of.ports[0]?.address ?? gw.ports[0]?.address ?? ''
  const request = (
    of: Device,
    unit: string,
    code: string,
    first: readonly [string, string],
    type: string,
    order: readonly [string, string],
  ): readonly TermLine[] => [
    ['address', address(of)],
    ['port', '502'],
    ['unit-id', unit],
    ['function-code', code, code],
    ['first-register', `${first[0]}|protocol`, first[1]],
    ['count', type === 'uint16' ? '1' : '2', type === 'uint16' ? '1' : '2'],
    ['data-type', type, type],
    ['word-order', order[0], order[1]],
    ['scale', '1', '1'],
  ]
  /** What the face of a unit on the line says of it. */
  const onLine = (settings: string): TermLine => ['line-settings', '', settings]
  const percent = (value: number) => ({ kind: 'percent-of-reading', percent: value }) as const
  const flow = (tag: string, quantity: string, register: string) => ({
    tag,
    quantity,
    unit: 'm³/h',
    decimals: 2,
    served: { register, type: 'float32', order: 'ABCD' } as const,
    shownAt: 'Pump house screen',
    reference: null,
    tolerance: percent(1),
  })
  const speed = (tag: string) => ({
    tag,
    quantity: 'Speed',
    unit: '%',
    decimals: 1,
    served: null,
    shownAt: 'Pump house screen',
    reference: null,
    tolerance: { kind: 'absolute', amount: 0.5 } as const,
  })

  /** What else the meter measures: read beside the voltage, in a place of its own, and not asked for at hand-over. */
  const meterPoint = (
    name: string,
    quantity: string,
    unit: string,
    decimals: number,
    register: string,
    servedAt: string,
  ): PointLine => ({
    tag: `EM501_${name}`,
    quantity,
    unit,
    decimals,
    source: { register, type: 'float32', order: 'ABCD', scale: 1 },
    served: { register: servedAt, type: 'float32', order: 'ABCD' },
    shownAt: '',
    reference: null,
    tolerance: percent(1),
    asked: false,
  })

  const handshakes = [
    handshake(
      {
        controller: plc,
        device: meter,
        manual: 'its manual, p. 12',
        terms: request(meter, '1', '04', ['0', '30001|five-digit'], 'float32', ['CDAB', 'ABCD']),
        point: {
          tag: 'EM501_U1',
          quantity: 'Voltage L1 to N',
          unit: 'V',
          decimals: 1,
          served: { register: '40101', type: 'float32', order: 'ABCD' },
          shownAt: 'Pump house screen',
          reference: { value: 230.4, origin: 'multimeter at the terminals, R. Osei' },
          tolerance: percent(1),
        },
        morePoints: [
          meterPoint('Frequency', 'Frequency', 'Hz', 2, '30023', '40103'),
          meterPoint('Energy', 'Energy, total', 'kWh', 1, '30025', '40105'),
        ],
      },
      1,
    ),
    handshake(
      {
        controller: plc,
        device: pd1,
        manual: 'its manual, p. 88',
        terms: request(pd1, '1', '03', ['8', '40009|five-digit'], 'uint16', ['ABCD', 'ABCD']),
        point: speed('PD101_Speed'),
      },
      2,
    ),
    handshake(
      {
        controller: plc,
        device: pd2,
        manual: 'its manual, p. 88',
        terms: request(pd2, '1', '03', ['8', '40009|five-digit'], 'uint16', ['ABCD', 'ABCD']),
        point: speed('PD102_Speed'),
      },
      3,
    ),
    handshake(
      {
        controller: plc,
        device: rio,
        manual: 'its data sheet',
        terms: request(rio, '1', '04', ['0', '30001|five-digit'], 'uint16', ['ABCD', 'ABCD']),
        point: { ...speed('Drum_Count'), quantity: 'Drum filter pulses', unit: '' },
      },
      4,
    ),
    handshake(
      {
        controller: plc,
        device: fm1,
        mirrors: mirroredByMeters,
        manual: 'its manual, p. 40',
        terms: [...request(fm1, '1', '04', ['0', '30001|five-digit'], 'float32', ['ABCD', 'CDAB']), onLine('9600 8N1')],
        point: {
          ...flow('Intake_Flow', 'Flow, intake', '40121'),
          reference: { value: 42.4, origin: 'read off the meter’s face, R. Osei' },
        },
      },
      5,
    ),
    handshake(
      {
        controller: plc,
        device: fm2,
        mirrors: mirroredByMeters,
        manual: 'its manual, p. 40',
        terms: [...request(fm2, '2', '04', ['0', '30001|five-digit'], 'float32', ['ABCD', 'ABCD']), onLine('9600 8N1')],
        point: flow('RacewayA_Flow', 'Flow, raceway A', '40123'),
      },
      6,
    ),
    handshake(
      {
        controller: plc,
        device: fm3,
        mirrors: mirroredByMeters,
        manual: 'its manual, p. 40',
        terms: [...request(fm3, '3', '04', ['0', '30001|five-digit'], 'float32', ['ABCD', 'ABCD']), onLine('9600 8E1')],
        point: flow('RacewayB_Flow', 'Flow, raceway B', '40125'),
      },
      7,
    ),
    handshake(
      {
        controller: plc,
        device: inverter,
        manual: 'its register list',
        terms: request(inverter, '1', '03', ['499', '40500|five-digit'], 'int32', ['ABCD', 'ABCD']),
        point: { ...speed('Battery_Power'), quantity: 'Battery power', unit: 'W', decimals: 0 },
      },
      8,
    ),
  ]

  const forced = (where: string, value: string, minutesAgo: number) => ({
    id: randomUUID(),
    version: 1,
    where,
    value,
    who: WHO,
    at: now - minutesAgo * 60_000,
    releasedBy: null,
    releasedAt: null,
  })
  const bare: Job = {
    id: randomUUID(),
    version: 1,
    name: 'Heron Mill hatchery',
    place: 'pump house',
    mode: 'bench',
    ...nothingYet,
    lines: [serial, scanner],
    requests: [
      {
        ...row(),
        about: 'reservation',
        what: 'Reservation of 10.20.41.200 by hardware address',
        toWhom: 'network owner',
        deviceIds: [supervisor.id],
        askedOn: day(now - 3 * DAY),
        dueOn: day(now + 4 * DAY),
        answer: '',
        answeredOn: null,
      },
      {
        ...row(),
        about: 'range',
        what: 'Addresses for the pump house in the process network',
        toWhom: 'network owner',
        deviceIds: [],
        askedOn: day(now - 12 * DAY),
        dueOn: day(now - 5 * DAY),
        answer: 'Use .10 to .149. The rest is ours.',
        answeredOn: day(now - 6 * DAY),
      },
    ],
    networks: [process, office],
    devices,
    handshakes,
    forced: [forced('PD-101 speed', '20.0 %', 78), forced('Float switch LS-11', 'held on', 39)],
  }
  return withHistory(bare, now)
}
