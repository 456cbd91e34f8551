import type { RunFacts } from '../run'
import {
  caution,
  check,
  decide,
  electricity,
  expectation,
  findAgain,
  moving,
  nameplate,
  powering,
  prepare,
  record,
  set,
  todo,
  wait,
  writing,
} from './parts'

/** Runs in which a device gets an IP address of its own. */
export const addressed: readonly RunFacts[] = [
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
    ],
  },
  {
    id: 'keypad-address',
    name: 'Address by keypad',
    about: 'A drive whose address is set in parameters at its keypad and counts after power off and on.',
    kinds: ['drive'],
    ways: [],
    steps: [
      moving,
      electricity,
      ...nameplate,
      prepare('before-power', 'mode-local', 'Mode of {tag} at local.', {
        why: 'In remote the keypad shows, but does not take, a setting.',
      }),
      expectation('power', 'display', 'The display of {tag} comes up as its kind says.', {
        otherwise: [
          {
            saw: 'The network lamp is red',
            likely: 'Two devices have one address: its twin has power too.',
            check: 'Take the twin off and look again.',
          },
          {
            saw: 'The display stays dark',
            likely: 'The control supply is missing.',
            check: 'Measure it at the terminals, by a licensed person.',
          },
        ],
      }),
      check('set', 'which', 'It is known which box {tag} is.', { check: 'identified', protects: 'plant' }),
      writing,
      set(
        'set',
        'octets',
        'On the keypad, four parameters, one for each octet: {padded}. The last octet is {lastOctet}.',
        {
          type: ['{octet1}', '{octet2}', '{octet3}', '{lastOctet}'],
          acts: ['writes'],
          normal: ['The old address counts until power has been off.'],
        },
      ),
      expectation('effective', 'dark', 'Power off until the display is dark, then on.', {
        why: 'With charge left in it, it never saw a restart.',
        lamps: [{ lamp: 'Display', pattern: { shape: 'off' }, means: 'No charge left' }],
      }),
      ...findAgain,
      todo('after', 'mode-back', 'Mode of {tag} back to remote.', {
        why: 'In local it communicates but does not obey.',
        protects: 'plant',
        acts: ['writes'],
      }),
    ],
  },
  {
    id: 'keypad-last-octet',
    name: 'Last octet by keypad',
    about: 'Only the last octet is set at the keypad; the first three stay.',
    kinds: [],
    ways: ['keypad-last-octet'],
    steps: [
      moving,
      electricity,
      prepare('before-power', 'mode-local', 'Mode of {tag} at local.'),
      expectation('power', 'display', 'The display of {tag} comes up as its kind says.'),
      writing,
      set('set', 'octet', 'On the keypad: last octet {lastOctet}.', { type: ['{lastOctet}'], acts: ['writes'] }),
      expectation('effective', 'dark', 'Power off until the display is dark, then on.', {
        lamps: [{ lamp: 'Display', pattern: { shape: 'off' }, means: 'No charge left' }],
      }),
      ...findAgain,
      todo('after', 'mode-back', 'Mode of {tag} back to remote.', { acts: ['writes'], protects: 'plant' }),
    ],
  },
  {
    id: 'keypad-menu',
    name: 'Address by a menu at the device',
    about: 'A device with keys and a display, set in its menu.',
    kinds: [],
    ways: ['keypad'],
    steps: [
      electricity,
      powering,
      ...nameplate,
      expectation('power', 'display', 'The display of {tag} comes up as its kind says.'),
      writing,
      set('set', 'octets', 'In its menu: address {planned}, subnet mask {mask}, gateway {gateway}. Then save.', {
        type: ['{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
      }),
      wait('effective', 'restarts', '{tag} takes its new address.', { seconds: 'start-up', watch: 'back-at-planned' }),
      ...findAgain,
    ],
  },
  {
    id: 'switch-address',
    name: 'Switches before power',
    about: 'Rotary or DIP switches show the address or node. They are read when power comes, and at no other time.',
    kinds: [],
    ways: ['rotary-switch', 'dip-switch'],
    steps: [
      electricity,
      powering,
      caution(
        'before-power',
        'writes-switches',
        'The switches are read at power-on: a wrong one makes {tag} take the place of another.',
        ['writes'],
        'plant',
      ),
      set('before-power', 'switches', 'Switches of {tag}: {switches}.', {
        why: 'They are read at power-on only.',
        protects: 'plant',
        acts: ['writes'],
        type: ['{switches}'],
      }),
      decide('before-power', 'octal', 'Are its switches marked in octal, 0 to 7?', {
        choices: [
          { say: 'Octal', then: 'Turn to {octal}: no 8 and no 9 occur.' },
          { say: 'Decimal', then: 'Turn to {lastOctet}.' },
        ],
      }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      ...findAgain,
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
          { say: 'No', then: 'Take the serial way in: its console shows and sets the address whatever the subnet is.' },
        ],
      }),
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
    id: 'serial-menu',
    name: 'Serial-menu card',
    about: 'A network card whose address is set in a menu over its serial socket: fixed, or by a reservation.',
    kinds: ['ups-card', 'ups-card-dhcp'],
    ways: ['serial-menu'],
    steps: [
      caution(
        'before-power',
        'load',
        'A UPS feeds a load. A shut-down command drops it. Change nothing but the card’s own settings.',
        ['powers', 'writes'],
        'plant',
      ),
      electricity,
      prepare(
        'before-power',
        'cable',
        'Serial cable of the card, the one that belongs to it. Its round or network-shaped socket is not Ethernet.',
      ),
      wait('power', 'card-ready', 'The card gets ready after it was put in.', {
        seconds: 'start-up',
        normal: ['Its page and its menu are silent until then.'],
      }),
      prepare('set', 'line', 'Console at 9600 8N1, no flow control.', {
        otherwise: [
          { saw: 'No prompt', likely: 'The wrong port.', check: 'Unplug the adapter and see which port goes.' },
          {
            saw: 'Signs without sense',
            likely: 'Settings of the line.',
            check: '9600 baud, 8 data bits, no parity, 1 stop bit.',
          },
          { saw: 'Still nothing', likely: 'The cable: null-modem or straight.', check: 'Try the other one.' },
          { saw: 'Nothing at all', likely: 'The card has no power.', check: 'See its lamp.' },
        ],
      }),
      decide('set', 'school', 'Fixed address in the card, or a reservation?', {
        choices: [
          { say: 'Fixed', then: 'In the menu: address fixed.' },
          { say: 'Reservation', then: 'In the menu: address by lease; the server must know {mac}.' },
        ],
      }),
      set('set', 'ups-code', 'Menu path: settings, UPS. Type the code of the UPS; the test data are no longer zero.', {
        type: ['2', '{upsCode}'],
        acts: ['writes'],
        why: 'With the wrong code every value stays zero.',
      }),
      set('set', 'address', 'Menu path: settings, network. Address {planned}, subnet mask {mask}, gateway {gateway}.', {
        type: ['1', '{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
      }),
      set('set', 'services', 'Services: Modbus on, the rest as the plan says.', {
        type: ['3', 'modbus on'],
        acts: ['writes'],
      }),
      todo('effective', 'save', 'Save and restart from the menu.', {
        type: ['9', 'yes'],
        acts: ['writes'],
        normal: ['The confirmation still shows the old values: that is so until it has restarted.'],
      }),
      wait('effective', 'restart', 'The card restarts.', { seconds: 'start-up', watch: 'back-at-planned' }),
      ...findAgain,
      record('after', 'firmware', 'Firmware of the card, on its page.', { record: 'firmware' }),
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
