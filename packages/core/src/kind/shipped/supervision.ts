import type { DeviceKindFacts } from '../kind'
import { flashing, lease, network, plain, steady, trouble } from './parts'

export const supervision: readonly DeviceKindFacts[] = [
  {
    id: 'supervisor',
    name: 'Supervisory controller',
    role: 'supervision',
    block: [200, 209],
    notApplying: ['writing'],
    defaultAddress: lease,
    defaultNode: null,
    setting: 'dhcp-reservation',
    effective: 'self-restart',
    startUpSeconds: 300,
    handsOnSeconds: 900,
    lamps: [
      flashing('Run', 'green', 1, 'Starts: four to five minutes are normal'),
      steady('Run', 'green', 'Its program runs'),
      trouble(flashing('Fault', 'red', 1, 'It does not find its server')),
    ],
    sockets: [network('Port 1'), plain('Trunk', 'Field bus of the building'), plain('Service', 'USB to the laptop')],
    limits: [
      'Its version must not be above that of its server.',
      'Its name stands in two places and must be equal in both.',
    ],
    beforePower: [
      'Trunk unplugged until the database is in',
      'Two backups of the old one',
      'MAC on its label written down',
    ],
  },
]
