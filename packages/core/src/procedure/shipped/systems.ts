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
      caution(
        'after',
        'download',
        'A download stops the controller and sets its outputs as the program says. Right project, right target, area clear.',
        ['writes'],
        'people',
      ),
      todo('after', 'load', 'Download the program.', { acts: ['writes'] }),
      expectation('after', 'switch-lamp', 'A switch at an input lights its lamp, and the tag follows.', {
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
      }),
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
    id: 'factory-reset',
    name: 'Factory reset and restore',
    about: 'Back to the factory state and up again, with what is lost named beforehand.',
    kinds: ['controller', 'rack-controller', 'remote-control-unit', 'gateway', 'supervisor'],
    ways: [],
    whenChosen: true,
    steps: [
      caution(
        'before-power',
        'lost',
        'Everything in {tag} is lost: program, users, names, logs. Say where each copy is before the button is held.',
        ['writes', 'powers'],
        'data',
      ),
      record('before-power', 'copies', 'Where the copies are: file, place, version.', {
        record: 'backup',
        protects: 'data',
      }),
      electricity,
      todo('power', 'hold', 'Hold the button through power-up until both lamps are steady.', {
        acts: ['powers', 'writes'],
      }),
      expectation('power', 'alternate', 'The two lamps alternate.', {
        lamps: [
          {
            lamp: 'Both',
            pattern: { shape: 'in-turn', colours: ['green', 'amber'], hertz: 1 },
            means: 'The reset is asked for',
          },
        ],
      }),
      wait('power', 'confirm', 'Hold again at least 3 s: that confirms it.', { seconds: 3 }),
      wait('power', 'start', 'It starts with its factory address.', {
        seconds: 'start-up',
        watch: 'back-at-present',
        normal: ['A start phase runs out its time on an empty bus: that is normal.'],
      }),
      check('set', 'ping', 'It answers at {present}.', { check: 'reached-present' }),
      todo('set', 'restore', 'Restore its firmware.', {
        acts: ['writes'],
        normal: ['The page is gone for good: the tool takes over.'],
      }),
      set('set', 'identity', 'Name {hostName}, clock and zone.', { type: ['{hostName}'], acts: ['writes'] }),
      set('set', 'address', 'Final address {planned}, subnet mask {mask}, gateway {gateway}.', {
        type: ['{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
      }),
      wait('effective', 'back', '{tag} comes back at {planned}.', { seconds: 'start-up', watch: 'back-at-planned' }),
      ...findAgain,
    ],
  },
  {
    id: 'supervisory-swap',
    name: 'Supervisory controller swap',
    about: 'A new controller takes the place of a running one, with its name, its database and a way back.',
    kinds: ['supervisor'],
    ways: [],
    steps: [
      caution(
        'before-power',
        'plant-runs',
        'Lights, ventilation and alarms hang on this controller. Agree on a time; somebody watches the plant by hand.',
        ['powers', 'wires', 'writes'],
        'people',
      ),
      check('before-power', 'before-picture', 'The before-picture is taken: who is on line, alarms, key values.', {
        check: 'before-picture',
        why: 'Afterwards only differences count: old faults apart from new ones.',
      }),
      record('before-power', 'backup-untouched', 'Backup one, of the old controller, untouched.', {
        record: 'backup',
        protects: 'data',
      }),
      record('before-power', 'backup-upgraded', 'Backup two, upgraded to the new model and version.', {
        record: 'backup',
        protects: 'data',
      }),
      check('before-power', 'two-backups', 'Two backups stand written down.', { check: 'backups', protects: 'data' }),
      check('before-power', 'version', 'Its version is not above the server’s.', {
        check: 'firmware',
        protects: 'data',
      }),
      record('before-power', 'mac', 'Hardware address on the label of {tag}.', { record: 'mac' }),
      check('before-power', 'reservation', 'The reservation has {mac}.', { check: 'mac-known' }),
      todo('before-power', 'trunk-out', 'Unplug the field trunk.', {
        protects: 'plant',
        acts: ['wires'],
        why: 'Field devices stay as they are while the database is not in.',
        leaves: { what: 'Field trunk of {tag} unplugged', putBack: 'Plug it in when the database is loaded.' },
      }),
      todo('before-power', 'old-out', 'Old controller removed from the server and from the network.', {
        protects: 'data',
        why: 'With both there the server pairs with the wrong one.',
      }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      wait('power', 'starts', 'The controller starts.', {
        seconds: 'start-up',
        watch: 'back-at-planned',
        normal: ['Shown as off-line for 4 to 5 minutes: normal.', '"Password expired" at the first log-in is normal.'],
      }),
      ...findAgain,
      set('after', 'password', 'New password, held by two people.', { acts: ['writes'] }),
      set('after', 'policy', 'Account policy before it can lock anyone out.', { acts: ['writes'], protects: 'data' }),
      set(
        'after',
        'name',
        'Name {hostName}, in the controller and in the server, letter for letter; then restart, before pairing.',
        { type: ['{hostName}'], acts: ['writes'], protects: 'data' },
      ),
      check('after', 'names', 'The name is the same in both places.', { check: 'names-equal', protects: 'data' }),
      set('after', 'server', 'The server’s address in each place that asks for it.', { acts: ['writes'] }),
      todo('after', 'load', 'Load the database by the path that is used for good.', {
        acts: ['writes'],
        normal: ['Off-line for 4 to 5 minutes again.'],
      }),
      todo('after', 'trunk-in', 'Plug the trunk back in.', {
        putsBack: 'Field trunk of {tag}',
        acts: ['wires'],
        protects: 'plant',
      }),
      check('after', 'returned', 'Every field device is back, counted against the before-picture.', {
        check: 'returned',
      }),
      decide('after', 'way-back', 'Does the plant run as before?', {
        choices: [
          { say: 'Yes', then: 'Keep the untouched backup until hand-over.' },
          { say: 'No', then: 'The way back comes next.' },
        ],
      }),
      todo('after', 'go-back', 'Way back: new controller off, the old one in its place, with the untouched backup.', {
        acts: ['powers', 'writes'],
        onlyIf: { decided: 'way-back', as: 'No' },
      }),
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
    about: 'Drives on a motion bus, reached through their controller as relay.',
    kinds: ['servo'],
    ways: [],
    steps: [
      moving,
      electricity,
      check('before-power', 'firmware', 'Firmware of the controller is at least {firmwareNeeded}.', {
        check: 'firmware',
      }),
      caution('before-power', 'node-caution', 'Two drives on one node answer at once, and the wrong axis may move.', [
        'writes',
      ]),
      set('before-power', 'node', 'Node of {tag}: {node}.', { acts: ['writes'], type: ['{node}'], protects: 'plant' }),

      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      check('set', 'relay', 'The relay answers: leg by leg, nearest first.', { check: 'reached-present' }),
      todo('verify', 'search', 'Search on the bus through the controller.'),
      record('verify', 'listed', 'Node under which it is listed.', { record: 'node' }),
    ],
  },
]
