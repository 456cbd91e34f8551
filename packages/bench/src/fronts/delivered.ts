import type { FrontDevice, FrontFacts, Surroundings } from './front'
import { AppInverter } from './appInverter'
import { ButtonGateway } from './buttonGateway'
import { KeypadDrive } from './keypadDrive'
import { LineGateway } from './lineGateway'
import { MenuMeter } from './menuMeter'
import { ModuleRow } from './moduleRow'
import { DeviceServer, PageDevice, SupervisoryController } from './pageDevice'
import { ResettableUnit } from './resettableUnit'
import { SerialMenuCard } from './serialMenuCard'
import { SwitchHead } from './switchHead'

/** A value that moves slowly about its middle. @param period s */
const wave = (middle: number, reach: number, period: number) => (seconds: number) =>
  middle + reach * Math.sin((2 * Math.PI * seconds) / period)

/** The devices of the bench that have a front, as they were delivered. Serial numbers and hardware addresses are made up. */
export function deliveredFronts(around: Surroundings): readonly FrontDevice[] {
  const facts = (
    tag: string,
    what: string,
    breaker: string,
    model: string,
    last: string,
    orderCode: string,
    speaks: FrontFacts['speaks'] = [],
  ) => ({
    tag,
    what,
    breaker,
    model,
    firmware: '2.3',
    serialNumber: `S4 ${last.replace(':', '')}`,
    mac: `02:5E:0B:10:${last}`,
    orderCode,
    speaks,
  })
  return [
    new KeypadDrive(facts('PD-101', 'Duty pump drive', 'Q11', 'VD-110', '7C:11', 'VD-110-4-E'), '192.168.1.20', around),
    new KeypadDrive(facts('PD-102', 'Standby drive', 'Q12', 'VD-075', '7C:14', 'VD-075-4-E'), '192.168.1.20', around),
    new PageDevice(
      facts('RIO-111', 'Remote I/O head', 'Q5', 'RH-8D2A4Q', '30:01', 'RH-8D2A4Q-C', ['identity']),
      20,
      '192.168.66.30',
      around,
      true,
    ),
    new SerialMenuCard(
      facts('UPS-401', 'UPS network card', 'Q4', 'UC-S1', '40:01', 'UC-S1'),
      '192.168.66.20',
      { address: '10.20.40.61', mask: '255.255.255.0', gateway: '10.20.40.1' },
      around,
    ),
    new DeviceServer(
      facts('SC-701', 'Serial device server', 'Q7', 'SS-1R', '70:01', 'SS-1R', ['name']),
      40,
      '192.168.66.80',
      around,
      false,
    ),
    new SupervisoryController(
      facts('SUP-801', 'Supervisory controller', 'socket', 'SE-2', '80:01', 'SE-2', ['lease', 'name']),
      '10.20.41.200',
      around,
    ),
    new ResettableUnit(
      facts('RCU-301', 'Remote-control unit', 'Q9', 'RC-4', '33:01', 'RC-4', ['identity', 'name']),
      '192.168.61.3',
      '10.20.40.70',
      around,
    ),
    new ModuleRow(
      facts('MH-510', 'Meter head with three modules', 'Q3', 'MM-3', '51:00', 'MM-3'),
      '10.20.40.55',
      ['MM-511', 'MM-512', 'MM-513'],
      around,
    ),
    new LineGateway(
      facts('GW-201', 'Gateway to serial', 'Q1', 'MG-1S', '20:01', 'MG-1S-E'),
      '10.20.40.40',
      '9600 8N1',
      [
        {
          tag: 'FM-201',
          what: 'Flow, intake',
          unit: 1,
          order: 'CDAB',
          settings: '9600 8N1',
          supplied: true,
          flow: wave(42.4, 0.3, 47),
        },
        {
          tag: 'FM-202',
          what: 'Flow, raceway A',
          unit: 2,
          order: 'ABCD',
          settings: '9600 8N1',
          supplied: true,
          flow: wave(18.1, 0.2, 31),
        },
        {
          tag: 'FM-203',
          what: 'Flow, raceway B',
          unit: 3,
          order: 'ABCD',
          settings: '9600 8E1',
          supplied: true,
          flow: wave(17.6, 0.2, 37),
        },
        // Delivered at 1: with its supply on it talks into FM-201.
        {
          tag: 'FM-204',
          what: 'Flow, return',
          unit: 1,
          order: 'ABCD',
          settings: '9600 8N1',
          supplied: false,
          flow: wave(35.2, 0.3, 53),
        },
        {
          tag: 'OT-211',
          what: 'Oxygen transmitter',
          unit: 11,
          order: 'ABCD',
          settings: '9600 8E1',
          supplied: true,
          flow: wave(8.4, 0.1, 61),
        },
      ],
      around,
    ),
    new SwitchHead(
      facts('AIO-121', 'Analog I/O block', 'Q21', 'AB-8', '12:21', 'AB-8-D', ['identity']),
      '10.20.42',
      around,
    ),
    new ButtonGateway(
      facts('GW-241', 'Gateway with two flow meters', 'Q22', 'GB-2', '24:01', 'GB-2-S'),
      '192.168.62.5',
      [
        { tag: 'FM-241', what: 'Flow meter', unit: 11 },
        { tag: 'EM-242', what: 'Energy meter', unit: 12 },
      ],
      around,
    ),
    new KeypadDrive(
      facts('CV-131', 'Integrated motor of the feeder', 'Q24', 'IM-1', '13:31', 'IM-1-K'),
      '10.20.42.99',
      around,
    ),
    new PageDevice(
      facts('RIO-132', 'Remote I/O head, battery room', 'Q25', 'RH-4D', '13:32', 'RH-4D-C', ['identity']),
      20,
      '192.168.66.32',
      around,
      true,
    ),
    new MenuMeter(
      facts('EM-133', 'Energy meter of the battery', 'Q26', 'EM-1M', '13:33', 'EM-1M-P'),
      '192.168.66.70',
      around,
    ),
    new AppInverter(facts('INV-321', 'Hybrid inverter', 'Q23', 'HI-10', '32:01', 'HI-10-B'), '192.168.67.1', around),
  ]
}
