import type { DeviceKindFacts } from '../kind'
import { dark, fixed, flashing, network, noAddress, plain, steady } from './parts'
import { ofMeters } from './usual'

const transformers = 'Current transformers: never open a secondary under load; short it first'

export const meters: readonly DeviceKindFacts[] = [
  {
    id: 'meter',
    name: 'Energy meter',
    role: 'meter',
    block: [50, 59],
    notApplying: ['writing'],
    defaultAddress: fixed('192.168.66.70'),
    defaultNode: null,
    setting: 'keypad',
    effective: 'save-and-restart',
    startUpSeconds: 10,
    handsOnSeconds: 150,
    lamps: [flashing('Pulse', 'red', 2, 'Energy is counted'), steady('Net', 'green', 'Link')],
    sockets: [network('Ethernet'), plain('Serial', 'RS-485 two-wire')],
    limits: ['A transformer the wrong way round shows negative power, not a fault.'],
    beforePower: [transformers, 'Phases and transformers in one order', 'Fuses of the voltage inputs'],
    terms: { 'largest-read': '125', 'poll-interval': '200 ms', connections: '4', timeout: '100 ms' },
    usual: ofMeters,
  },
  {
    id: 'modular-meter',
    name: 'Modular meter with push-button addressing',
    role: 'meter',
    block: [50, 59],
    notApplying: ['writing'],
    defaultAddress: noAddress,
    defaultNode: { family: 'decimal-1-247', node: 1, nodeCount: 1, isMaster: false },
    setting: 'push-button',
    effective: 'at-once',
    startUpSeconds: 8,
    handsOnSeconds: 20,
    lamps: [
      flashing('Module', 'amber', 2, 'Waits for its button'),
      steady('Module', 'green', 'Has its address'),
      dark('Module', 'Not seen by the first module'),
    ],
    sockets: [plain('Bus', 'From module to module')],
    limits: ['The order of pressing is the order of addresses. All come with one address.'],
    beforePower: [transformers, 'Terminator on the last module'],
    usual: ofMeters,
  },
]
