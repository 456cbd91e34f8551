import fc from 'fast-check'
import { shippedKinds } from '../kind'
import { shippedRuns } from '../procedure'
import {
  MenuDrive,
  MENU_QUIET_MS,
  MENU_SILENT_MS,
  OwnLines,
  readingsIn,
  taskOf,
  type MenuFacts,
  type MenuMove,
} from '.'
import { shows } from './menu'

/** A menu of another make than the one that ships: numbers, prompts and way home of its own. */
const other: MenuFacts = {
  line: '19200 8E1',
  wake: 'escape',
  logIn: ['login as:', 'password:'],
  home: 'main>',
  back: [{ prompt: '[x] back >', answer: 'x' }],
  tasks: [
    {
      id: 'address-fixed',
      name: 'Fixed address',
      answers: [
        { prompt: 'main>', answer: 'net' },
        { prompt: 'value>', answer: '10.20.40.61' },
        // The same prompt again asks for something else.
        { prompt: 'value>', answer: '255.255.255.0' },
        { prompt: 'keep [*]?', answer: 'y' },
      ],
      shows: 'kept*',
      refuses: ['bad *'],
    },
    { id: 'save', name: 'Restart', answers: [{ prompt: 'main>', answer: 'boot' }], shows: 'bye', ends: true },
  ],
  reads: [
    { label: 'IP', is: 'address' },
    { label: 'rev', is: 'firmware' },
  ],
}

const driveOf = (id: string) => {
  const task = taskOf(other, id)
  if (!task) throw new Error(`no task ${id}`)
  return new MenuDrive(other, task, task.answers)
}

/** Feeds what the device writes, piece after piece, and gives each move that was not a wait. */
function moves(drive: MenuDrive, pieces: readonly string[], quietMs = 100): readonly MenuMove[] {
  return pieces.flatMap((piece) => {
    drive.received(piece)
    const move = drive.next(quietMs)
    return move.kind === 'wait' ? [] : [move]
  })
}
const sent = (all: readonly MenuMove[]) => all.flatMap((move) => (move.kind === 'send' ? [move.text] : []))

describe('a task in a menu', () => {
  test('each answer goes out at its own prompt, the same prompt twice too, and what was said is given back', () => {
    const all = moves(driveOf('address-fixed'), [
      '\r\nCard\r\nmain> ',
      'net\r\nvalue> ',
      '10.20.40.61\r\nvalue> ',
      '255.255.255.0\r\nkeep [10.20.40.61]? ',
      'y\r\nkept, restart to use\r\n[x] back > ',
      'x\r\nmain> ',
    ])
    expect(sent(all)).toEqual(['net\r', '10.20.40.61\r', '255.255.255.0\r', 'y\r', 'x\r'])
    expect(all.at(-1)).toEqual({ kind: 'done', said: 'kept, restart to use' })
  })

  test('a prompt that comes in pieces is answered once, when all of it is there', () => {
    expect(sent(moves(driveOf('address-fixed'), ['ma', 'in', '>', ' ', 'net']))).toEqual(['net\r'])
  })

  test('a prompt that nobody described: nothing is sent, and it says what it shows', () => {
    const drive = driveOf('address-fixed')
    expect(sent(moves(drive, ['main> ', 'net\r\nErase all settings? (y/n) ']))).toEqual(['net\r'])
    expect(drive.next(MENU_QUIET_MS - 1)).toEqual({ kind: 'wait' })
    expect(drive.next(MENU_QUIET_MS)).toEqual({
      kind: 'stopped',
      what: 'The menu shows what its description does not have here. Nothing more was sent, after 1 of 4 answers of "Fixed address".',
      found: 'Erase all settings? (y/n)',
      expected: 'value>',
    })
  })

  test('a known prompt out of its turn is not answered either', () => {
    const drive = driveOf('address-fixed')
    moves(drive, ['main> '])
    drive.received('net\r\nkeep [0.0.0.0]? ')
    expect(drive.next(MENU_QUIET_MS)).toMatchObject({ kind: 'stopped', found: 'keep [0.0.0.0]?', expected: 'value>' })
  })

  test('user and password are typed by a person; it goes on by itself at the home of the menu', () => {
    const drive = driveOf('save')
    drive.received('login as: ')
    expect(drive.next(MENU_SILENT_MS)).toEqual({ kind: 'log-in', prompt: 'login as:' })
    // In the middle of a line: it may take as long as it takes.
    drive.typed()
    drive.received('adm')
    expect(drive.next(MENU_SILENT_MS)).toEqual({ kind: 'wait' })
    drive.received('in\r\npassword: ')
    expect(drive.next(100)).toEqual({ kind: 'log-in', prompt: 'password:' })
    drive.typed()
    expect(drive.next(MENU_SILENT_MS)).toEqual({ kind: 'wait' })
    drive.received('\r\nmain> ')
    expect(drive.next(100)).toMatchObject({ kind: 'send', text: 'boot\r' })
  })

  test('an empty screen is woken, a few times while it starts; a menu that stays silent is told', () => {
    const drive = driveOf('save')
    expect(drive.next(100)).toEqual({ kind: 'wait' })
    expect(drive.next(MENU_QUIET_MS)).toEqual({ kind: 'wake' })
    expect(drive.next(MENU_QUIET_MS)).toEqual({ kind: 'wait' })
    expect([1, 2, 3].map(() => drive.next(2_500).kind)).toEqual(['wake', 'wake', 'wake'])
    expect(drive.next(2_500)).toEqual({ kind: 'wait' })
    expect(drive.next(MENU_SILENT_MS)).toMatchObject({ kind: 'stopped', found: '', expected: 'main>' })
  })

  test('left in a sub-menu by somebody else: it goes home first', () => {
    expect(sent(moves(driveOf('save'), ['settings\r\n[x] back > ', 'x\r\nmain> ']))).toEqual(['x\r', 'boot\r'])
  })

  test('a menu that never comes home is left alone', () => {
    const pieces = Array.from({ length: 30 }, () => 'x\r\n[x] back > ')
    const drive = driveOf('save')
    expect(sent(moves(drive, pieces))).toHaveLength(10)
    expect(drive.next(MENU_QUIET_MS)).toMatchObject({ kind: 'stopped', found: '[x] back >' })
  })

  test('what the menu refuses is not done, and its words are given', () => {
    const all = moves(driveOf('address-fixed'), [
      'main> ',
      'value> ',
      'value> ',
      'keep [x]? ',
      'y\r\nkept nothing\r\nbad mask\r\nmain> ',
    ])
    expect(all.at(-1)).toMatchObject({ kind: 'stopped', found: 'bad mask', what: '"Fixed address" was not taken.' })
  })

  test('home again without the words that it was taken: not done', () => {
    const all = moves(driveOf('address-fixed'), ['main> ', 'value> ', 'value> ', 'keep [x]? ', 'y\r\nhm\r\nmain> '])
    expect(all.at(-1)).toMatchObject({ kind: 'stopped', found: 'hm', expected: 'kept*' })
  })

  test('a connection that ends: done only where the task ends so, and said so', () => {
    const save = driveOf('save')
    moves(save, ['main> '])
    save.received('boot\r\nbye\r\n')
    expect(save.closed()).toEqual({ kind: 'done', said: 'bye' })
    const silent = driveOf('save')
    moves(silent, ['main> '])
    expect(silent.closed()).toMatchObject({ kind: 'stopped', expected: 'bye' })
    const away = driveOf('address-fixed')
    moves(away, ['main> ', 'value> ', 'value> ', 'keep [x]? '])
    away.received('y\r\nkept')
    expect(away.closed()).toMatchObject({ kind: 'stopped', found: 'kept', expected: 'main>' })
    const half = driveOf('address-fixed')
    moves(half, ['main> ', 'value> '])
    expect(half.closed()).toMatchObject({
      kind: 'stopped',
      what: 'The connection ended after 2 of 4 answers of "Fixed address".',
    })
  })
})

describe('what a console shows', () => {
  test('values after their labels, as words of their own', () => {
    expect(readingsIn(other, ['IP: 10.20.40.61 (lease)', 'rev 3.04', 'ZIP 10.0.0.1', 'IPX 10.0.0.2', 'rev -'])).toEqual(
      [
        { is: 'address', text: '10.20.40.61' },
        { is: 'firmware', text: '3.04' },
      ],
    )
    expect(readingsIn(other, ['IP 10.20.40.300', 'IP none'])).toEqual([])
  })

  test('a line on which somebody typed says nothing of the device', () => {
    const own = new OwnLines()
    expect(own.waiting).toBe('')
    expect(own.received('IP 10.0.0.1\r\nIP: ')).toEqual(['IP 10.0.0.1'])
    expect(own.waiting).toBe('IP: ')
    own.typed()
    expect(own.received('10.20.40.61\r\nIP 10.0.0.1\r\n')).toEqual(['IP 10.0.0.1'])
    // Nothing is echoed: the line end belongs to what was typed.
    own.typed()
    expect(own.received('\r\nrev 2\r\n')).toEqual(['rev 2'])
  })
})

test('a pattern is the whole line, capitals and blanks aside; a star is anything, other signs are themselves', () => {
  expect(shows('  Main> ', 'main>')).toBe(true)
  expect(shows('main>>', 'main>')).toBe(false)
  expect(shows('keep [a.b]?', 'keep [*]?')).toBe(true)
  expect(shows('keep aab?', 'keep [*]?')).toBe(false)
  expect(shows('axb', 'a.b')).toBe(false)
  expect(shows('ab', 'a*b*')).toBe(true)
  expect(shows('a', 'a*a')).toBe(false)
  expect(shows('x1y2z', 'x*y*z')).toBe(true)
  expect(shows('x1z2y', 'x*y*z')).toBe(false)
  expect(shows('one two', 'one*two*two')).toBe(false)
  expect(shows('', '*')).toBe(true)
  // The same as a plain expression says, whatever is thrown at it; and a hostile one ends.
  fc.assert(
    fc.property(fc.stringMatching(/^[ab*]{0,8}$/), fc.stringMatching(/^[ab]{0,10}$/), (pattern, line) => {
      expect(shows(line, pattern)).toBe(new RegExp(`^${pattern.replaceAll('*', '.*')}$`).test(line))
    }),
  )
  expect(shows(`${'a'.repeat(20_000)}c`, `${'*a'.repeat(40)}b`)).toBe(false)
})

test('what a run that ships does in a menu, the menus that ship can do', () => {
  const named = shippedRuns.flatMap((run) => run.steps.flatMap((step) => step.menu ?? []))
  expect(named.length).toBeGreaterThan(4)
  const menus = shippedKinds.flatMap((kind) => kind.menu ?? [])
  expect(menus.length).toBeGreaterThan(0)
  for (const menu of menus)
    for (const id of named) expect({ id, has: taskOf(menu, id) !== undefined }).toEqual({ id, has: true })
})
