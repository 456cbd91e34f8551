import type { RunFacts } from '../run'
import {
  caution,
  check,
  electricity,
  expectation,
  findAgain,
  inTurn,
  missingNodes,
  nameplate,
  powering,
  prepare,
  record,
  set,
  todo,
  wait,
} from './parts'

const twoOnOne = caution(
  'set',
  'unit-caution',
  'Two devices with one unit id answer at once and both are lost. Connect one at a time.',
  ['writes'],
  'plant',
)

/** Runs of devices on a serial line or bus. */
export const onLines: readonly RunFacts[] = [
  {
    id: 'push-button-modules',
    name: 'Modules addressed by push button',
    about: 'Equal modules in a row: the order of pressing is the order of addresses.',
    kinds: ['modular-meter'],
    ways: ['push-button'],
    together: true,
    steps: [
      electricity,
      powering,
      prepare('before-power', 'terminator', 'Terminator on the last module of the row, and on no other.'),
      caution(
        'set',
        'press-caution',
        'A module pressed out of turn takes the place of another; the readings of two circuits are then exchanged.',
        ['writes'],
        'data',
      ),
      todo('set', 'search', 'Start the search from the head module, held as its manual says.', { acts: ['writes'] }),
      expectation('set', 'all-alike', 'Every module of the row shows that it waits to be pressed.', {
        lamps: [
          {
            lamp: 'Bus',
            pattern: { shape: 'flashing', colour: 'amber', hertz: 2 },
            means: 'All on one factory address',
          },
        ],
        normal: ['All modules show the same factory address: that is why they are pressed one by one.'],
        otherwise: [
          {
            saw: 'One stays dark',
            likely: 'It has no power, or its bus cable is open.',
            check: 'Supply and cable of the module before it.',
          },
          {
            saw: 'None flashes',
            likely: 'The search did not start.',
            check: 'Hold the button of the head as long as its manual says.',
          },
        ],
      }),
      inTurn('set', 'press', 'Press the button of {tag} about 2 s: number {unit}.', {
        acts: ['writes'],
        type: ['{unit}'],
      }),
      wait('effective', 'minute', 'The row settles, about a minute.', { seconds: 60 }),
      check('verify', 'row', 'Every module answers at its number, and nobody at the next.', {
        check: 'row-answers',
        lamps: [{ lamp: 'Bus', pattern: { shape: 'steady', colour: 'green' }, means: 'Has its address' }],
        otherwise: [
          { saw: 'One still flashes', likely: 'It was not pressed long enough.', check: 'Hold it 2 s.' },
          {
            saw: 'Two are lit with one number',
            likely: 'Both were pressed in one turn.',
            check: 'Search again and press them one by one.',
          },
        ],
      }),
    ],
  },
  {
    id: 'second-meter',
    name: 'Second meter on a bus',
    about: 'A meter beside the grid meter, after inverter and battery are in service.',
    kinds: ['meter', 'modular-meter'],
    ways: [],
    whenChosen: true,
    steps: [
      caution(
        'before-power',
        'ct',
        'Never open a current-transformer secondary under load. Isolate, lock, prove dead.',
        ['wires', 'powers'],
      ),
      prepare('before-power', 'first', 'Inverter and battery are commissioned and run.', { protects: 'plant' }),
      caution(
        'set',
        'two-ids',
        'The order matters: a meter with an id that the inverter does not expect yet stops the export limit.',
        ['writes'],
        'plant',
      ),
      set('set', 'function', 'Function and id in the set-up of the inverter first.', {
        acts: ['writes'],
        type: ['{unit}'],
      }),
      set('set', 'on-meter', 'Then on the meter itself: unit id {unit}.', { acts: ['writes'], type: ['{unit}'] }),
      set('set', 'accept', 'Then take the id that the set-up proposes.', { acts: ['writes'] }),
      expectation('verify', 'status', 'Its status in the set-up: connected.', {
        lamps: [{ lamp: 'Status', pattern: { shape: 'shows', text: 'connected' }, means: 'The inverter reads it' }],
      }),
    ],
  },
  {
    id: 'code-reader',
    name: 'Code reader through a converter',
    about: 'A reader on a serial line behind a device server or converter.',
    kinds: ['code-reader'],
    ways: [],
    places: ['line'],
    steps: [
      powering,
      prepare('before-power', 'mode-switch', 'Mode switch of the converter set before power.', {
        protects: 'plant',
        why: 'It is read at power-on only.',
      }),
      prepare('before-power', 'code', 'The code to scan that sets the reader to its line.'),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      caution('set', 'scan-caution', 'A code scanned by mistake changes the reader for good.', ['writes'], 'data'),
      todo('set', 'scan', 'Scan the code.', { acts: ['writes'] }),
      check('verify', 'way', 'Its way in answers: {way}.', {
        check: 'reached-present',
        why: 'Address in the laptop’s subnet, the same port at both ends.',
      }),
      record('verify', 'tag-text', 'Take a tag to scan, and write down what it says.', { record: 'text-on-tag' }),
      check('verify', 'text', 'Scan the tag: its text arrives.', { check: 'text-arrives' }),
    ],
  },
  {
    id: 'serial-device',
    name: 'Device on a serial line',
    about: 'A field device behind a gateway: unit id and line as planned.',
    kinds: ['field-device'],
    ways: [],
    places: ['line'],
    steps: [
      electricity,
      powering,
      prepare('before-power', 'terminator', 'Terminator of {line} at its two ends, and nowhere between.'),
      expectation('power', 'lamps', 'Lamps or display of {tag} as its kind says.'),
      twoOnOne,
      set('set', 'unit', 'Unit id of {tag}: {unit}. Baud rate, parity and stop bits: {lineSettings}.', {
        acts: ['writes'],
        type: ['{unit}', '{lineSettings}'],
        why: 'With another parity it is silent, and it looks as if it had no power.',
      }),
      ...findAgain,
    ],
  },
  {
    id: 'unit-on-a-line',
    name: 'Unit on a serial line',
    about: 'A device without an address of its own: unit id and line as planned, reached leg by leg.',
    kinds: [],
    ways: [],
    places: ['line'],
    steps: [
      electricity,
      powering,
      ...nameplate,
      prepare('before-power', 'terminator', 'Terminator of {line} at its two ends, and nowhere between.'),
      expectation('power', 'lamps', 'Lamps or display of {tag} as its kind says.'),
      twoOnOne,
      set('set', 'unit', 'Unit id of {tag}: {unit}. Baud rate, parity and stop bits: {lineSettings}.', {
        acts: ['writes'],
        type: ['{unit}', '{lineSettings}'],
        why: 'With another parity it is silent, and it looks as if it had no power.',
      }),
      ...findAgain,
    ],
  },
  {
    id: 'rack-module',
    name: 'Module in a rack',
    about:
      'A module without an address of its own. Its label is compared with its whole rack, in one table at the head.',
    kinds: [],
    ways: [],
    places: ['rack'],
    steps: [
      electricity,
      powering,
      prepare('before-power', 'latched', 'Latched in its slot: {tag}.', { why: 'An open rack ends at the gap.' }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
    ],
  },
  {
    id: 'bus-node',
    name: 'Node on a bus',
    about: 'Devices on a bus with a master: node set before power, searched for once, listed, compared.',
    kinds: [],
    ways: [],
    places: ['bus'],
    together: true,
    steps: [
      electricity,
      powering,
      ...nameplate,
      prepare('before-power', 'description-file', 'Description file of {tag}, in the revision of the master’s tool.', {
        why: 'A file that is too new is not listed, one that is too old lacks modules.',
      }),
      prepare('before-power', 'terminator', 'Terminator of {line} at its two ends, and nowhere between.'),
      caution(
        'before-power',
        'node-caution',
        'Two on one node answer at once and both are lost; what the master writes goes to the wrong one.',
        ['writes'],
        'plant',
      ),
      set('before-power', 'node', 'Node of {tag}: {node}.', {
        acts: ['writes'],
        type: ['{node}'],
        protects: 'plant',
        why: 'It is read at power-on only.',
      }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.', {
        normal: ['Its bus lamp may flash until the master asks it.'],
      }),
      check('set', 'relay', 'First leg: what the bus is reached through answers.', { check: 'relay-answers' }),
      todo('verify', 'range', 'The range that the master searches covers every node that is planned on {line}.'),
      todo('verify', 'search', 'Search on {line}, once for all of them.'),
      check('verify', 'listed', 'Take in the list of the search: each node as planned, and no other.', {
        check: 'nodes-listed',
        otherwise: missingNodes,
      }),
    ],
  },
]
