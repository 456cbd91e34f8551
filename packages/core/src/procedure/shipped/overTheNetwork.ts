import type { RunFacts } from '../run'
import {
  check,
  decide,
  electricity,
  expectation,
  findAgain,
  nameplate,
  powering,
  prepare,
  record,
  set,
  todo,
  wait,
  writing,
} from './parts'

/** Runs in which a device gets its address over the network: its page, a tool, a server. */
export const overTheNetwork: readonly RunFacts[] = [
  {
    id: 'web-page',
    name: 'Web page at the factory address',
    about: 'The device serves a page at its factory address; the planned address is typed there.',
    kinds: [],
    ways: ['web-page', 'engineering-tool'],
    steps: [
      prepare(
        'before-power',
        'description-file',
        'Description file of {tag} in the revision that the programming tool’s version reads.',
        {
          why: 'A file that is too new is not listed, one that is too old lacks modules.',
        },
      ),
      electricity,
      powering,
      ...nameplate,
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.', {
        normal: ['The network lamp may flash until a controller connects.'],
      }),
      check('set', 'laptop', 'The laptop is in {presentSubnet}.', { check: 'laptop-in-subnet' }),
      check('set', 'answers', '{tag} answers at {present}.', {
        check: 'reached-present',
        otherwise: [
          {
            saw: 'The page does not open',
            likely: 'The laptop’s own adapter: wrong subnet, or wireless takes the route.',
            check: 'See the list of the laptop’s interfaces below.',
          },
          {
            saw: 'Another page opens',
            likely: 'Another device has the same factory address.',
            check: 'Pull the plug of {tag} and look again.',
          },
        ],
      }),
      writing,
      set(
        'set',
        'type',
        'On its page: address {planned}, subnet mask {mask}, gateway {gateway}. Then write it to the device.',
        {
          type: ['{planned}', '{mask}', '{gateway}'],
          acts: ['writes'],
          normal: ['The page is gone for good: it lives at the new address now.'],
        },
      ),
      wait('effective', 'restarts', '{tag} takes its new address.', { seconds: 'start-up', watch: 'back-at-planned' }),
      ...findAgain,
      record('after', 'firmware', 'Firmware as its page says.', { record: 'firmware' }),
      check('after', 'firmware-is', 'It is the one asked for.', { check: 'firmware' }),
    ],
  },
  {
    id: 'discovery-tool',
    name: 'Discovery tool',
    about: 'The device is found by a search on the wire and given its address by the tool.',
    kinds: [],
    ways: ['discovery-tool'],
    steps: [
      electricity,
      powering,
      ...nameplate,
      record('before-power', 'mac', 'Hardware address on the label of {tag}.', {
        record: 'mac',
        why: 'The list of the tool shows it, and nothing else tells twins apart.',
      }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      wait('power', 'search', 'Search again every few seconds while it starts.', {
        seconds: 'start-up',
        normal: [
          'It shows in no list until some 80 s after power-up.',
          '0.0.0.0 means: it asks for a lease, it is there.',
        ],
      }),
      check('set', 'laptop', 'The laptop is in {presentSubnet}.', {
        check: 'laptop-in-subnet',
        why: 'Found by a search is not reached: the setting needs the same subnet.',
      }),
      writing,
      set(
        'set',
        'assign',
        'In the tool, by the hardware address {mac}: address {planned}, subnet mask {mask}, gateway {gateway}.',
        {
          type: ['{planned}', '{mask}', '{gateway}'],
          acts: ['writes'],
          otherwise: [
            { saw: 'The tool refuses', likely: 'The laptop is in another subnet.', check: 'See where the laptop is.' },
            {
              saw: 'It is not in the list',
              likely: 'It still starts, or a firewall drops broadcasts.',
              check: 'Wait its start-up time once more; then use the serial way in.',
            },
          ],
        },
      ),
      wait('effective', 'cycle', 'Power off and on, then its start-up time.', {
        seconds: 'start-up',
        watch: 'back-at-planned',
      }),
      decide('effective', 'way-out', 'Did it come back?', {
        choices: [
          { say: 'Yes', then: 'Go on.' },
          { say: 'No', then: 'The serial way in comes next.' },
        ],
      }),
      todo(
        'effective',
        'serial-way',
        'Take the serial way in: its console shows and sets the address whatever the subnet is.',
        {
          acts: ['writes'],
          onlyIf: { decided: 'way-out', as: 'No' },
        },
      ),
      ...findAgain,
    ],
  },
  {
    id: 'dhcp-reservation',
    name: 'DHCP reservation by MAC',
    about: 'A server gives the address by the hardware address; nothing is set in the device.',
    kinds: [],
    ways: ['dhcp-reservation'],
    steps: [
      electricity,
      powering,
      record('before-power', 'mac', 'Hardware address on the label of {tag}.', { record: 'mac' }),
      check('before-power', 'mac-known', 'The reservation has the same hardware address, {mac}.', {
        check: 'mac-known',
      }),
      prepare('before-power', 'reserved', 'The network owner has answered: {planned} is reserved for {mac}.', {
        why: 'Without the reservation it takes some address of the range.',
      }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      wait('power', 'lease', '{tag} asks for its lease.', { seconds: 'start-up', watch: 'back-at-planned' }),
      ...findAgain.map((step) => ({
        ...step,
        otherwise: [
          {
            saw: 'It has 169.254.x.x',
            likely: 'No server answered it.',
            check: 'See the port of the switch and its VLAN.',
          },
          {
            saw: 'It has an address of the range',
            likely: 'The reservation has another hardware address.',
            check: 'Compare {mac} with the reservation, pair by pair.',
          },
        ],
      })),
    ],
  },
  {
    id: 'device-server',
    name: 'Device server and its serial line',
    about: 'A serial device server: address by its page, then line and port as the plan says.',
    kinds: ['device-server'],
    ways: [],
    steps: [
      electricity,
      powering,
      ...nameplate,
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      check('set', 'laptop', 'The laptop is in {presentSubnet}.', { check: 'laptop-in-subnet' }),
      check('set', 'answers', '{tag} answers at {present}.', { check: 'reached-present' }),
      writing,
      set(
        'set',
        'type',
        'On its page: address {planned}, subnet mask {mask}, gateway {gateway}; the line as planned.',
        {
          type: ['{planned}', '{mask}', '{gateway}'],
          acts: ['writes'],
        },
      ),
      wait('effective', 'restarts', 'It saves and restarts.', { seconds: 'start-up', watch: 'back-at-planned' }),
      ...findAgain,
    ],
  },
]
