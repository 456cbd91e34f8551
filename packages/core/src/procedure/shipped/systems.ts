import type { RunFacts } from '../run'
import {
  caution,
  check,
  electricity,
  expectation,
  findAgain,
  missingNodes,
  moving,
  nameplate,
  powering,
  prepare,
  set,
  todo,
  wait,
  writing,
} from './parts'

/** Runs of larger things: controllers, gateways, supervision, inverters. */
export const systems: readonly RunFacts[] = [
  {
    id: 'controller-rack',
    name: 'Controller rack',
    about: 'Modules by order code, firmware first on a first load, then the program.',
    kinds: ['controller', 'rack-controller'],
    ways: [],
    steps: [
      electricity,
      powering,
      ...nameplate,
      check('before-power', 'codes', 'The order code of {tag} is that of the parts list.', { check: 'order-code' }),
      check('before-power', 'rack', 'Each slot of {tag} holds what the project has there, the whole order code.', {
        check: 'rack-codes',
        why: 'A module of another code, or two that were exchanged, are refused at the download, or run as something else.',
        otherwise: [
          {
            saw: 'Two codes are exchanged',
            likely: 'Two modules were put in the wrong slots.',
            check: 'Power off, then change them over.',
          },
          {
            saw: 'The last letters differ',
            likely: 'Another revision or option of the same module.',
            check: 'Ask whoever made the project; nobody changes it here.',
          },
        ],
      }),
      prepare('before-power', 'latches', 'Latches closed, end cover on.', { why: 'An open rack ends at the gap.' }),
      prepare('before-power', 'key', 'Key switch at stop or program.', { protects: 'plant' }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      check('set', 'laptop', 'The laptop is in {presentSubnet}.', { check: 'laptop-in-subnet' }),
      writing,
      set('set', 'address', 'From the programming tool: address {planned}, subnet mask {mask}, gateway {gateway}.', {
        type: ['{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
      }),
      ...findAgain,
      check('after', 'firmware-first', 'Firmware first: {firmwareNeeded} before the program goes in.', {
        check: 'firmware',
        protects: 'data',
        why: 'A first load into an older firmware is refused, or half taken.',
      }),
      check('last', 'served', 'What {tag} talks to is verified.', {
        check: 'served-verified',
        protects: 'data',
        why: 'A program that runs before its devices are there faults, and hides which of them is not.',
      }),
      caution(
        'last',
        'download',
        'A download stops the controller and sets its outputs as the program says. Right project, right target, area clear.',
        ['writes'],
        'people',
      ),
      todo('last', 'load', 'Download the program, then start it.', { acts: ['writes'] }),
      check('last', 'sees', 'The programming tool lists what {tag} sees: each device it talks to, none at fault.', {
        check: 'controller-sees',
        otherwise: [
          {
            saw: 'One is missing',
            likely: 'Its address or name in the program is another than at the device.',
            check: 'The entry of that device in the program, letter for letter.',
          },
          {
            saw: 'One is at fault',
            likely: 'Sizes, revision or update interval differ at the two ends.',
            check: 'What the tool says of that device; the terms of its handshake.',
          },
        ],
      }),
      expectation('last', 'lamps-again', 'A second look at the lamps of {tag}, now that its devices are there.'),
      expectation('last', 'switch-lamp', 'A switch at an input lights its lamp, and the tag follows.', {
        lamps: [{ lamp: 'Input', pattern: { shape: 'steady', colour: 'green' }, means: 'The input is closed' }],
      }),
    ],
  },
  {
    id: 'gateway-button',
    name: 'Gateway with a configuration button',
    about: 'A gateway or converter that takes its settings in a mode of its own, entered by a button.',
    kinds: ['gateway', 'token-bus-converter', 'bus-master'],
    ways: [],
    places: ['rack', 'bus', 'line'],
    steps: [
      electricity,
      powering,
      ...nameplate,
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      check('set', 'laptop', 'The laptop is in {presentSubnet}.', { check: 'laptop-in-subnet' }),
      writing,
      todo('set', 'press', 'Press its configuration button.', {
        leaves: { what: '{tag} in its configuration mode', putBack: 'Reset it: it goes back on line.' },
      }),
      expectation('set', 'config-lamp', 'Its lamps say configuration mode.', {
        lamps: [
          {
            lamp: 'Config',
            pattern: { shape: 'in-turn', colours: ['green', 'amber'], hertz: 1 },
            means: 'Configuration mode: it passes nothing on',
          },
        ],
        normal: ['The line behind it is shown as off-line meanwhile.'],
      }),
      check('set', 'firmware', 'Its firmware is at least the one asked for.', { check: 'firmware' }),
      set('set', 'settings', 'Address {planned}, subnet mask {mask}, gateway {gateway}; then its tables. Download.', {
        type: ['{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
        onlyWhere: 'addressed',
      }),
      set(
        'set',
        'settings-tables',
        'Its line and its tables from the programming tool, over its own cable. Download.',
        {
          acts: ['writes'],
          onlyWhere: 'not-addressed',
        },
      ),
      todo('effective', 'reset', 'Reset: it goes on line.', {
        putsBack: '{tag} in its configuration mode',
        acts: ['powers'],
      }),
      wait('effective', 'back', '{tag} comes back.', { seconds: 'start-up', watch: 'back-at-planned' }),
      ...findAgain,
      check('after', 'units', 'Units behind {tag} answer.', { check: 'units-behind' }),
    ],
  },
  {
    id: 'phone-app-inverter',
    name: 'Inverter by phone',
    about: 'A hybrid inverter with a battery, set by an app beside it.',
    kinds: ['inverter'],
    ways: ['phone-app'],
    steps: [
      caution(
        'before-power',
        'dc',
        'DC of panels and battery stays live and arcs. Isolate both, lock, prove dead; wait for its capacitors.',
        ['wires', 'powers'],
      ),
      prepare('before-power', 'meter-first', 'Grid meter wired and reading before the inverter is commissioned.', {
        protects: 'plant',
      }),
      todo('set', 'access-point', 'Phone into the access point of {tag}.', {
        leaves: { what: 'Phone in the access point of {tag}', putBack: 'Back into its own network.' },
      }),
      todo('set', 'installer', 'Log in with the installer’s account.'),
      caution(
        'set',
        'grid',
        'Grid parameters only as the network operator prescribes, by those licensed to set them.',
        ['writes'],
      ),
      set('set', 'mode', 'Operating mode as agreed.', { acts: ['writes'] }),
      set('set', 'battery', 'Battery: kind and capacity.', { acts: ['writes'] }),
      set('set', 'grid-set', 'Grid settings: by the licensed person only.', { acts: ['writes'], protects: 'people' }),
      set('set', 'limits', 'Contract power and export limit.', { acts: ['writes'], protects: 'plant' }),
      set('set', 'window', 'Charge window.', { acts: ['writes'] }),
      set('set', 'meter-id', 'Id of the grid meter.', { acts: ['writes'] }),
      set('set', 'passwords', 'Passwords changed, held by two people.', { acts: ['writes'] }),
      set('set', 'clock', 'Clock and zone.', { acts: ['writes'] }),
      set('set', 'network', 'Network: {planned}, subnet mask {mask}, gateway {gateway}.', {
        type: ['{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
      }),
      expectation('effective', 'steady', 'Its network lamp turns steady.', {
        lamps: [{ lamp: 'Network', pattern: { shape: 'steady', colour: 'green' }, means: 'On the network' }],
        normal: ['It flashes for a minute or two while it connects.'],
      }),
      ...findAgain,
    ],
  },
  {
    id: 'relay-drives',
    name: 'Drives behind a controller',
    about: 'Drives on a motion bus, reached through their controller as relay: searched for once, listed, compared.',
    kinds: ['servo'],
    ways: [],
    places: ['bus', 'line'],
    together: true,
    steps: [
      moving,
      electricity,
      check('before-power', 'firmware', 'Firmware of the controller is at least {firmwareNeeded}.', {
        check: 'relay-firmware',
      }),
      caution('before-power', 'node-caution', 'Two drives on one node answer at once, and the wrong axis may move.', [
        'writes',
      ]),
      set('before-power', 'node', 'Node of {tag}: {node}.', { acts: ['writes'], type: ['{node}'], protects: 'plant' }),

      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      check('set', 'relay', 'First leg: what it is reached through answers.', { check: 'relay-answers' }),
      todo('verify', 'search', 'Search on the bus through the controller, once for all of them.'),
      check('verify', 'listed', 'Take in the list of the search: each node as planned, and no other.', {
        check: 'nodes-listed',
        otherwise: missingNodes,
      }),
    ],
  },
]
