import type { RunFacts } from '../run'
import {
  caution,
  check,
  decide,
  electricity,
  expectation,
  nameplate,
  findAgain,
  moving,
  powering,
  prepare,
  record,
  set,
  todo,
  wait,
  writing,
} from './parts'

/** Runs in which the address is set at the device: keypad, switches, serial menu. */
export const atTheDevice: readonly RunFacts[] = [
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
      todo('set', 'mode-local', 'Mode of {tag} at local.', {
        why: 'In remote the keypad shows, but does not take, a setting. The keypad needs power for it.',
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
      expectation('power', 'display', 'The display of {tag} comes up as its kind says.'),
      todo('set', 'mode-local', 'Mode of {tag} at local.', {
        why: 'In remote the keypad shows, but does not take, a setting. The keypad needs power for it.',
      }),
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
      decide('before-power', 'octal', 'Are its switches marked in octal, 0 to 7?', {
        choices: [
          { say: 'Decimal', then: 'They are turned to the number as it is planned.' },
          { say: 'Octal', then: 'They are turned to {octal}: no 8 and no 9 occur.' },
        ],
      }),
      set('before-power', 'switches', 'Switches of {tag}: {switches}.', {
        why: 'They are read at power-on only.',
        protects: 'plant',
        acts: ['writes'],
        type: ['{switches}'],
        onlyIf: { decided: 'octal', as: 'Decimal' },
      }),
      set('before-power', 'switches-octal', 'Switches of {tag}, in octal: {octal}.', {
        why: 'They are read at power-on only.',
        protects: 'plant',
        acts: ['writes'],
        type: ['{octal}'],
        onlyIf: { decided: 'octal', as: 'Octal' },
      }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      ...findAgain,
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
        { leaves: { what: 'Serial lead in {tag}', putBack: 'Out again, when the card is set.' } },
      ),
      record('before-power', 'unit-code', 'Code of the UPS, from its rear label: it is typed into the card later.', {
        record: 'unit-code',
        why: 'Once it is in its place nobody sees that label.',
      }),
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
          { say: 'Fixed', then: 'It is typed in the menu.' },
          { say: 'Reservation', then: 'The server gives it; it must know {mac}.' },
        ],
      }),
      set('set', 'ups-code', 'In its menu: the code of the UPS. The test data are no longer zero.', {
        menu: 'unit-code',
        type: ['{upsCode}'],
        acts: ['writes'],
        why: 'With the wrong code every value stays zero.',
      }),
      set('set', 'address', 'In its menu: address {planned}, subnet mask {mask}, gateway {gateway}.', {
        menu: 'address-fixed',
        type: ['{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
        onlyIf: { decided: 'school', as: 'Fixed' },
      }),
      set('set', 'lease', 'In its menu: address by lease; the server has {planned} for {mac}.', {
        menu: 'address-lease',
        acts: ['writes'],
        onlyIf: { decided: 'school', as: 'Reservation' },
      }),
      set('set', 'services', 'Services: Modbus on, the rest as the plan says.', {
        menu: 'services',
        acts: ['writes'],
      }),
      todo('effective', 'network-in', 'Network lead into {tag}, if it is not in yet.', {
        why: 'Without it the card gets no lease, and nobody can see it come back.',
      }),
      todo('effective', 'save', 'Save and restart from the menu.', {
        menu: 'save',
        acts: ['writes'],
        normal: ['The confirmation still shows the old values: that is so until it has restarted.'],
      }),
      wait('effective', 'restart', 'The card restarts.', { seconds: 'start-up', watch: 'back-at-planned' }),
      check('verify', 'lease-read', 'Read the lease back in the menu: address, mask and gateway as it shows them.', {
        check: 'shows-planned',
        menu: 'show',
        why: 'A lease from another server, or none, shows here and nowhere else.',
        onlyIf: { decided: 'school', as: 'Reservation' },
        otherwise: [
          {
            saw: 'Another address',
            likely: 'The reservation is for another hardware address, or a second server answered first.',
            check: 'The hardware address on the label against the list of reservations.',
          },
          {
            saw: 'No address',
            likely: 'No server hears it: its network lead, or the port of the switch.',
            check: 'Link lamp of the card and of its port.',
          },
        ],
      }),
      todo('verify', 'serial-out', 'Serial lead out of {tag}, cap back on its socket.', {
        putsBack: 'Serial lead in {tag}',
      }),
      ...findAgain,
      record('after', 'firmware', 'Firmware of the card, on its page.', { record: 'firmware' }),
      check('after', 'firmware-is', 'It is the one asked for.', { check: 'firmware' }),
    ],
  },
]
