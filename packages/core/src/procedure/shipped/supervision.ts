import type { RunFacts } from '../run'
import { caution, check, decide, expectation, findAgain, record, set, todo, wait } from './parts'

/** @source common practice, no source: a supervisory controller is off line for 4 to 5 minutes after a start or a load */
const OFF_LINE_SECONDS = 300

/** The swap of a supervisory controller, in the order in which nothing has to be done twice. */
export const supervision: readonly RunFacts[] = [
  {
    id: 'supervisory-swap',
    name: 'Supervisory controller swap',
    about: 'A new controller takes the place of a running one, with its name, its database and a way back.',
    kinds: ['supervisor'],
    ways: [],
    onDemand: 'also',
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
      record('before-power', 'backup-archive', 'Backup two, the archive copy: it is the one that is upgraded later.', {
        record: 'backup',
        protects: 'data',
      }),
      check('before-power', 'two-backups', 'Two backups stand written down.', { check: 'backups', protects: 'data' }),
      record('before-power', 'mac', 'Hardware address on the label of {tag}.', { record: 'mac' }),
      check('before-power', 'reservation', 'The reservation has {mac}.', { check: 'mac-known' }),
      todo('before-power', 'trunk-out', 'Unplug the field trunk.', {
        protects: 'plant',
        acts: ['wires'],
        why: 'Field devices stay as they are while the database is not in.',
        leaves: { what: 'Field trunk of {tag} unplugged', putBack: 'Plug it in when the database is loaded.' },
      }),
      todo('before-power', 'old-off', 'Old controller off, its network lead out; it stays at hand for the way back.', {
        protects: 'plant',
        acts: ['powers'],
        why: 'Two with one name and one address answer for each other.',
      }),
      expectation('power', 'lamps', 'Lamps of {tag} as its kind says.'),
      wait('power', 'starts', 'The controller starts.', {
        seconds: 'start-up',
        watch: 'back-at-planned',
        normal: ['Shown as off-line for 4 to 5 minutes: normal.'],
      }),
      ...findAgain,
      todo('after', 'log-in', 'First log-in, with the password it was delivered with.', {
        normal: ['"Password expired" at the first log-in is normal: it asks for a new one.'],
      }),
      set('after', 'password', 'New password, held by two people.', { acts: ['writes'] }),
      set('after', 'policy', 'Account policy before it can lock anyone out.', { acts: ['writes'], protects: 'data' }),
      set('after', 'name', 'Name {hostName}, in every place where it stands, letter for letter.', {
        type: ['{hostName}'],
        acts: ['writes'],
        protects: 'data',
        why: 'It pairs by its name: a name that is changed later pairs anew.',
      }),
      record('after', 'names-read', 'Read its name where it stands: in the device, and in each other place.', {
        record: 'names',
        onlyWhere: 'named-elsewhere',
      }),
      check('after', 'names', 'The name is the same in each place.', { check: 'names-equal', protects: 'data' }),
      todo('after', 'restart', 'Restart it: its name counts from then on.', { acts: ['powers'], protects: 'data' }),
      wait('after', 'restarted', 'It restarts.', { seconds: 'start-up', watch: 'gone-and-back' }),
      todo('after', 'old-entry', 'Remove the entry of the old controller from the server.', {
        protects: 'data',
        acts: ['writes'],
        why: 'With both there the server pairs with the wrong one.',
      }),
      set('after', 'server', 'The server’s address in each place that asks for it; then pair them.', {
        acts: ['writes'],
      }),
      wait('after', 'paired', 'They pair.', {
        seconds: OFF_LINE_SECONDS,
        normal: ['Off-line for 4 to 5 minutes: normal.'],
      }),
      expectation('after', 'paired-seen', 'The server shows {tag} on line, under its new name.', {
        protects: 'plant',
        lamps: [],
        why: 'Time does not pair them: nothing goes on before the server shows it.',
        otherwise: [
          {
            saw: 'Still off line',
            likely: 'The old entry is still there, or the name differs.',
            check: 'Names in each place, letter for letter; then wait its time once more.',
          },
        ],
      }),
      record('after', 'version-read', 'Its version, as its page says.', { record: 'firmware' }),
      check('after', 'version', 'Its version is not above the server’s.', { check: 'firmware', protects: 'data' }),
      record(
        'after',
        'backup-upgraded',
        'The archive copy, upgraded to that version and model: file, place, version.',
        {
          record: 'backup',
          protects: 'data',
          why: 'Never above the version of the server; backup one stays untouched.',
        },
      ),
      todo('after', 'load', 'Load the upgraded copy by the path that is used for good.', { acts: ['writes'] }),
      wait('after', 'loaded', 'It takes the database and restarts.', {
        seconds: OFF_LINE_SECONDS,
        normal: ['Off-line for 4 to 5 minutes again.'],
      }),
      expectation('after', 'loaded-seen', '{tag} is on line again, and its page shows the database that was loaded.', {
        protects: 'plant',
        lamps: [],
        why: 'With an empty database the field devices would be taken over by nobody.',
        otherwise: [
          {
            saw: 'The old database, or none',
            likely: 'It still restarts, or the load was not taken.',
            check: 'Its page: name and date of the database; then load again.',
          },
        ],
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
]
