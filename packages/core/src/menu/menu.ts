/** One prompt of a menu, and what is typed there. */
export interface MenuAnswer {
  /** The whole line that waits, capitals and blanks around it aside; `*` stands for anything. */
  readonly prompt: string
  /** With {fields} that the job fills in; blank is a return alone. */
  readonly answer: string
}

/** One thing that is done in a menu, from its home and back to it. */
export interface MenuTask {
  /** Small letters, digits and hyphens. A step of a run names it. */
  readonly id: string
  readonly name: string
  readonly answers: readonly MenuAnswer[]
  /** What a line must show before the menu is home again; without it the task was not taken. `*` stands for anything. */
  readonly shows?: string
  /** Lines that say that it was not taken, whatever else is shown. */
  readonly refuses?: readonly string[]
  /** The menu closes with it and does not come home. */
  readonly ends?: boolean
}

/** What a line of the console tells by itself. */
export type MenuValue = 'address' | 'mask' | 'gateway' | 'firmware' | 'set-code' | 'test-data'

export const menuValues: Readonly<Record<MenuValue, string>> = {
  address: 'address',
  mask: 'subnet mask',
  gateway: 'gateway',
  firmware: 'firmware',
  // Beside the code on the label, never in its place.
  'set-code': 'code that is set',
  'test-data': 'test data',
}

/** A value that the menu shows: what stands before it on its line. */
export interface MenuReading {
  readonly label: string
  readonly is: MenuValue
}

/** A key that wakes a menu. */
export type WakeKey = 'return' | 'space' | 'escape'

export const wakeKeys: Readonly<Record<WakeKey, string>> = { return: '\r', space: ' ', escape: '\u001b' }

/**
 * The menu of a kind of device over its serial socket, as its manual describes it: what it shows, and what may be typed
 * there. The program sends nothing that does not stand here, and only at the prompt where it stands.
 */
export interface MenuFacts {
  /** Settings of the line: `9600 8N1`. */
  readonly line: string
  readonly wake: WakeKey
  /** Prompts at which a person types: user and password are never sent by the program. */
  readonly logIn: readonly string[]
  /** The prompt from which every task begins. */
  readonly home: string
  /** Prompts on the way home. */
  readonly back: readonly MenuAnswer[]
  readonly tasks: readonly MenuTask[]
  readonly reads: readonly MenuReading[]
}

/** The task of a menu; `undefined` where it has none of that name. */
export const taskOf = (menu: MenuFacts | undefined, id: string | undefined): MenuTask | undefined =>
  menu?.tasks.find((task) => task.id === id)

/**
 * Whether a line is what a description says: capitals and blanks around it aside, `*` for anything. Piece by piece, so
 * that no description takes long, whatever comes.
 */
export function shows(line: string, pattern: string): boolean {
  const text = line.trim().toLowerCase()
  const [first = '', ...rest] = pattern.trim().toLowerCase().split('*')
  const last = rest.pop()
  if (last === undefined) return text === first
  if (!text.startsWith(first) || text.length < first.length + last.length || !text.endsWith(last)) return false
  const end = text.length - last.length
  let at = first.length
  for (const piece of rest) {
    const found = text.indexOf(piece, at)
    if (found < 0 || found + piece.length > end) return false
    at = found + piece.length
  }
  return true
}
