import { shows, type MenuAnswer, type MenuFacts, type MenuTask } from './menu'
import { Screen } from './screen'

/** What is done next at a menu. */
export type MenuMove =
  /** Nothing yet: more may come. */
  | { readonly kind: 'wait' }
  /** A person types here. */
  | { readonly kind: 'log-in'; readonly prompt: string }
  /** The screen is empty: the key that wakes it. */
  | { readonly kind: 'wake' }
  | { readonly kind: 'send'; readonly prompt: string; readonly text: string }
  | { readonly kind: 'done'; readonly said: string }
  /** It shows what nobody described, or did not say what it should: nothing is sent. */
  | { readonly kind: 'stopped'; readonly what: string; readonly found: string; readonly expected: string }

/** How long nothing may come, before what stands there counts as all of it, ms. */
export const MENU_QUIET_MS = 1_200

/** How long a menu that shows nothing may take, ms. */
export const MENU_SILENT_MS = 10_000

/** How often an empty screen is woken, and how long after the last time, ms. */
const MOST_WAKES = 4
const WAKE_AGAIN_MS = 2_500

/** As many steps on the way home: a menu that never comes home is left alone. */
const MOST_BACKS = 10

const WAIT: MenuMove = { kind: 'wait' }

/**
 * Does one task at a menu: an answer goes out only when the prompt it belongs to is the line that waits. What was sent
 * once is not sent again.
 */
export class MenuDrive {
  readonly #screen = new Screen()
  /** How many answers were sent. */
  #sent = 0
  /** Lines since the first answer, for what the task is to show. */
  #shown: string[] = []
  #woken = 0
  #backs = 0
  /** A person is in the middle of a line. */
  #isTyping = false

  /** @param answers those of the task with the job's values in them */
  constructor(
    readonly menu: MenuFacts,
    readonly task: MenuTask,
    readonly answers: readonly MenuAnswer[],
  ) {}

  get sent(): number {
    return this.#sent
  }

  /** What came from the device. */
  received(text: string): void {
    this.#screen.received(text)
    if (/[\r\n]/.test(text)) this.#isTyping = false
  }

  /** A person typed something: what waits now is another line. */
  typed(): void {
    this.#take()
    this.#isTyping = true
  }

  /** The connection ended. */
  closed(): MenuMove {
    this.#take()
    if (this.#sent < this.answers.length)
      return {
        kind: 'stopped',
        what: `The connection ended after ${this.#sent} of ${this.answers.length} answers of "${this.task.name}".`,
        found: this.#shown.at(-1) ?? '',
        expected: this.answers[this.#sent]?.prompt ?? '',
      }
    if (this.task.ends) return this.#whenShown()
    const what = `The connection ended before the menu was back at its home. "${this.task.name}" may not have been taken.`
    return { kind: 'stopped', what, found: this.#shown.at(-1) ?? '', expected: this.menu.home }
  }

  /**
   * The next move, as far as the screen tells. `send` counts as sent.
   * @param quietMs since when nothing came
   */
  next(quietMs: number): MenuMove {
    const line = this.#screen.waiting
    const isQuiet = quietMs >= MENU_QUIET_MS
    if (this.#isTyping) return WAIT
    if (line === '') return this.#whenEmpty(quietMs)
    if (this.#sent === 0 && this.menu.logIn.some((prompt) => shows(line, prompt)))
      return { kind: 'log-in', prompt: line }
    const due = this.answers[this.#sent]
    if (due && shows(line, due.prompt)) {
      this.#sent += 1
      return this.#send(due)
    }
    if (!due && shows(line, this.menu.home)) {
      this.#take()
      return this.#whenShown()
    }
    // On the way home, or left elsewhere by whoever was here before.
    const back = this.#sent === 0 || !due ? this.menu.back.find(({ prompt }) => shows(line, prompt)) : undefined
    if (back && this.#backs < MOST_BACKS) {
      this.#backs += 1
      return this.#send(back)
    }
    return isQuiet ? this.#stopped(due?.prompt ?? this.menu.home) : WAIT
  }

  #whenEmpty(quietMs: number): MenuMove {
    // A card that still starts does not hear the first one.
    if (this.#sent === 0 && this.#woken < MOST_WAKES) {
      if (quietMs < (this.#woken === 0 ? MENU_QUIET_MS / 2 : WAKE_AGAIN_MS)) return WAIT
      this.#woken += 1
      return { kind: 'wake' }
    }
    return quietMs >= MENU_SILENT_MS ? this.#stopped(this.answers[this.#sent]?.prompt ?? this.menu.home) : WAIT
  }

  #send({ answer }: MenuAnswer): MenuMove {
    const prompt = this.#screen.waiting
    this.#take()
    return { kind: 'send', prompt, text: `${answer}\r` }
  }

  #take(): void {
    if (this.#sent > 0) this.#shown.push(...this.#screen.lines.filter((line) => line !== ''))
    this.#screen.clear()
  }

  #whenShown(): MenuMove {
    const { shows: wanted, refuses = [], name } = this.task
    const refused = this.#shown.find((line) => refuses.some((pattern) => shows(line, pattern)))
    if (refused !== undefined)
      return { kind: 'stopped', what: `"${name}" was not taken.`, found: refused, expected: wanted ?? '' }
    const said = wanted === undefined ? '' : this.#shown.find((line) => shows(line, wanted))
    if (said !== undefined) return { kind: 'done', said }
    const prompts = [this.menu.home, ...this.menu.back.map(({ prompt }) => prompt)]
    return {
      kind: 'stopped',
      what: `"${name}" was not taken: the menu went on without saying so.`,
      found: this.#shown.filter((line) => !prompts.some((prompt) => shows(line, prompt))).at(-1) ?? '',
      expected: wanted ?? '',
    }
  }

  #stopped(expected: string): MenuMove {
    const found = this.#screen.waiting
    const sent =
      this.#sent === 0
        ? 'Nothing was sent.'
        : `Nothing more was sent, after ${this.#sent} of ${this.answers.length} answers of "${this.task.name}".`
    return {
      kind: 'stopped',
      what:
        found === ''
          ? `Nothing comes from the menu. ${sent}`
          : `The menu shows what its description does not have here. ${sent}`,
      found,
      expected,
    }
  }
}
