import type { RunFacts, RunStep } from '../run'
import { caution, check, decide, electricity, expectation, findAgain, record, set, todo, wait, writing } from './parts'

/** It does nothing meanwhile, and what it moves does what it does without it. */
const stops = caution(
  'before-power',
  'stops',
  'A controller that is restarted, reset or loaded stops what it runs: its outputs drop or stay as they are, and what asks {tag} gets no answer. Agree on a time; somebody watches the plant; the area is clear.',
  ['powers', 'writes'],
)

const copies = record('before-power', 'copies', 'Where the copies of what is in {tag} are: file, place, version.', {
  record: 'backup',
  protects: 'data',
})

const laptopThere: RunStep = {
  id: 'laptop-there',
  phase: 'set',
  kind: 'set',
  say: 'Its page, its tool and the wait for it need the laptop in its subnet.',
  laptop: 'present',
}

const answersNow = check('set', 'answers', '{tag} answers at {present}.', {
  check: 'reached-present',
  otherwise: [
    {
      saw: 'Nothing answers',
      likely: 'It is at another address than the one known, or without power.',
      check: 'Search its subnet under Find; see its lamps.',
    },
  ],
})

const runsAgain = expectation('after', 'runs', 'Lamps of {tag} as its kind says: it runs again.')

/** Runs that are begun when they are needed, for a device at whatever address it has, live or not. */
export const onDemand: readonly RunFacts[] = [
  {
    id: 'restart',
    name: 'Restart',
    about: 'Down and up again, seen to go and seen to come back.',
    kinds: [],
    ways: [],
    onDemand: 'only',
    steps: [
      stops,
      laptopThere,
      answersNow,
      todo('effective', 'restart', 'Restart {tag} from its page or tool; else its own switch, off until it is dark.', {
        acts: ['powers'],
      }),
      wait('effective', 'back', '{tag} goes and comes back at {present}.', {
        seconds: 'start-up',
        watch: 'gone-and-back',
      }),
      runsAgain,
    ],
  },
  {
    id: 'firmware-update',
    name: 'Firmware update',
    about: 'Another firmware, with the copies named first and the version read afterwards.',
    kinds: [],
    ways: [],
    onDemand: 'only',
    steps: [
      stops,
      caution(
        'before-power',
        'unbroken',
        'A load that breaks off can leave {tag} dead for good. Supply secured, by cable and not by radio; nobody switches {group} meanwhile.',
        ['writes'],
        'data',
      ),
      copies,
      laptopThere,
      answersNow,
      todo('set', 'load', 'Load the firmware that is asked for: {firmwareNeeded}.', { acts: ['writes'] }),
      wait('effective', 'back', '{tag} restarts with it.', { seconds: 'start-up', watch: 'gone-and-back' }),
      record('after', 'firmware', 'Firmware of {tag}, as its page or tool says it now.', { record: 'firmware' }),
      check('after', 'firmware-is', 'It is the one asked for.', { check: 'firmware' }),
      runsAgain,
    ],
  },
  {
    id: 'restore',
    name: 'Restore from a copy',
    about: 'A copy goes back in: which one is written down, what it overwrites is said.',
    kinds: [],
    ways: [],
    onDemand: 'only',
    steps: [
      stops,
      caution(
        'before-power',
        'overwrites',
        'What is in {tag} now is overwritten. If nobody has a copy of it, make one first.',
        ['writes'],
        'data',
      ),
      record('before-power', 'which-copy', 'The copy that goes in: file, place, version.', {
        record: 'backup',
        protects: 'data',
      }),
      laptopThere,
      answersNow,
      todo('set', 'load', 'Restore that copy.', { acts: ['writes'] }),
      wait('effective', 'back', '{tag} restarts with it.', { seconds: 'start-up', watch: 'gone-and-back' }),
      ...findAgain,
      runsAgain,
    ],
  },
  {
    id: 'factory-reset',
    name: 'Factory reset and restore',
    about: 'Back to the factory state and up again, with what is lost named beforehand.',
    kinds: ['controller', 'rack-controller', 'remote-control-unit', 'gateway', 'supervisor'],
    ways: [],
    onDemand: 'only',
    steps: [
      stops,
      caution(
        'before-power',
        'lost',
        'Everything in {tag} is lost: program, users, names, logs, its address. Say where each copy is before the button is held.',
        ['writes', 'powers'],
        'data',
      ),
      copies,
      {
        ...electricity,
        say: '{group} also feeds: {alsoOff}. It goes off with it. Isolate, lock, prove dead before any terminal is touched; local rules and a licensed person decide.',
      },
      todo('before-power', 'mode-service', 'Mode switch of {tag} to where it is reset from, if it has one.', {
        leaves: { what: 'Mode switch of {tag} moved', putBack: 'Back to where it was when the reset is confirmed.' },
      }),
      todo('before-power', 'off', 'Take {group} off: {tag} is dark.', { acts: ['powers'], becomes: 'dead' }),
      todo('power', 'button', 'Press its reset button and keep it pressed, before power comes.', {
        why: 'It looks at the button when power comes, and at no other time.',
        protects: 'data',
      }),
      todo('power', 'on', 'Button held: put {group} on.', { acts: ['powers', 'writes'], becomes: 'live' }),
      expectation('power', 'steady', 'Two lamps are steady: let go of the button.', {
        lamps: [
          {
            lamp: 'Both',
            pattern: { shape: 'steady', colour: 'amber' },
            means: 'It saw the button',
          },
        ],
        otherwise: [
          {
            saw: 'It starts as always',
            likely: 'The button was pressed too late, or let go too early.',
            check: 'Take it off again; press first, then power.',
          },
        ],
      }),
      expectation('power', 'in-turn', 'The two lamps come in turn: it waits to be told what to reset.', {
        lamps: [
          {
            lamp: 'Both',
            pattern: { shape: 'in-turn', colours: ['green', 'amber'], hertz: 1 },
            means: 'It waits for short presses',
          },
        ],
      }),
      todo('power', 'count', 'One lamp more for each short press: press until its manual’s number for "all" is lit.', {
        acts: ['writes'],
      }),
      wait('power', 'confirm', 'Hold again, at least 3 s, until all lamps flash.', { seconds: 3 }),
      expectation('power', 'flash', 'All lamps flash: it resets. Let go.', {
        becomes: 'at-factory',
        lamps: [
          {
            lamp: 'All',
            pattern: { shape: 'flashing', colour: 'amber', hertz: 2 },
            means: 'The reset is under way',
          },
        ],
      }),
      todo('power', 'mode-switch', 'Mode switch of {tag} back to where it was.', {
        why: 'Left in the other place it starts and does not run.',
        putsBack: 'Mode switch of {tag}',
      }),
      { ...laptopThere, id: 'laptop-factory', phase: 'power', onlyWhere: 'factory-known' },
      wait('power', 'start', 'It starts at its factory address, {factory}.', {
        seconds: 'start-up',
        watch: 'back-at-present',
        onlyWhere: 'factory-known',
        normal: ['A start phase runs out its time on an empty bus: that is normal.'],
      }),
      wait('power', 'start-lease', 'It starts, and asks a server for an address.', {
        seconds: 'start-up',
        onlyWhere: 'factory-unknown',
      }),
      record('set', 'found-at', 'The address it has now, as the server or a search shows it.', {
        record: 'as-found',
        onlyWhere: 'factory-unknown',
      }),
      { ...laptopThere, id: 'laptop-lease', onlyWhere: 'factory-unknown' },
      check('set', 'answers', '{tag} answers at {present}.', {
        check: 'reached-present',
        otherwise: [
          {
            saw: 'It answers at its planned address',
            likely: 'The reset was not taken: it never saw the button.',
            check: 'Take it off again; press first, then power.',
          },
          {
            saw: 'It answers at neither',
            likely: 'It still starts, or its kind has another factory address than is known.',
            check: 'Wait its start-up time once more; then search for it under Find.',
          },
        ],
      }),
      expectation('set', 'started', 'It has started: lamps of {tag} as its kind says.'),
      record('set', 'identity', 'What it calls itself: model and serial number, as its page or tool says.', {
        record: 'identity',
      }),
      record('set', 'firmware', 'Its firmware now.', { record: 'firmware' }),
      check('set', 'firmware-is', 'It is the one asked for, before anything is restored.', {
        check: 'firmware',
        protects: 'data',
      }),
      { ...writing, say: 'The next steps write to {tag}. Make sure that it is this device.' },
      decide('set', 'carries', 'Does the copy bring its address with it?', {
        choices: [
          { say: 'No', then: 'It stays at {present} until its address is set.' },
          { say: 'Yes', then: 'It comes back at {planned}.' },
        ],
      }),
      todo('set', 'restore', 'Restore the copy.', {
        acts: ['writes'],
        normal: ['Its page may be gone meanwhile: the tool takes over.'],
      }),
      wait('set', 'restored', 'It restarts with what was restored.', {
        seconds: 'start-up',
        watch: 'gone-and-back',
        onlyIf: { decided: 'carries', as: 'No' },
      }),
      {
        ...laptopThere,
        id: 'laptop-carried',
        say: 'It comes back at its planned address.',
        laptop: 'planned',
        onlyIf: { decided: 'carries', as: 'Yes' },
      },
      wait('set', 'restored-planned', 'It restarts with what was restored, at {planned}.', {
        seconds: 'start-up',
        watch: 'back-at-planned',
        onlyIf: { decided: 'carries', as: 'Yes' },
      }),
      set('set', 'clock', 'Name {hostName}; clock and time zone.', { type: ['{hostName}'], acts: ['writes'] }),
      set('set', 'address', 'Final address {planned}, subnet mask {mask}, gateway {gateway}.', {
        type: ['{planned}', '{mask}', '{gateway}'],
        acts: ['writes'],
        becomes: 'entered',
        onlyIf: { decided: 'carries', as: 'No' },
      }),
      {
        id: 'laptop-back',
        phase: 'effective',
        kind: 'set',
        say: 'It is looked for at its planned address.',
        laptop: 'planned',
        onlyIf: { decided: 'carries', as: 'No' },
      },
      wait('effective', 'back', '{tag} comes back at {planned}.', {
        seconds: 'start-up',
        watch: 'back-at-planned',
        onlyIf: { decided: 'carries', as: 'No' },
      }),
      ...findAgain,
      runsAgain,
    ],
  },
]
