import { stripVTControlCharacters } from 'node:util'
import type { ConsoleToPage, MenuState } from '@calm/contract/console'
import type { Device, Job } from '@calm/core/job'
import { kindFacts } from '@calm/core/kind'
import {
  MenuDrive,
  OwnLines,
  readingsIn,
  wakeKeys,
  type MenuFacts,
  type MenuMove,
  type ReadValue,
} from '@calm/core/menu'
import type { StepInMenu } from '@calm/core/procedure'

/** How often the screen is looked at while a task runs, ms. */
const LOOKS_EVERY_MS = 60
/** How long a prompt has to stand before it is answered: more of its line may come. */
const STANDS_MS = 120

export interface MenuAround {
  readonly write: (text: string) => void
  readonly tell: (message: ConsoleToPage) => void
  readonly keepRead: (device: Device, values: readonly ReadValue[]) => void
  readonly clock: () => number
}

/** The menu at the other end of a console: reads what it shows, and does a task in it prompt by prompt. */
export class MenuSession {
  readonly #own = new OwnLines()
  readonly #menu: MenuFacts | undefined
  #drive: MenuDrive | undefined
  #stepKey = ''
  #heardAt: number
  #logIn = ''
  #timer: NodeJS.Timeout | undefined

  constructor(
    job: Job,
    readonly device: Device | undefined,
    readonly around: MenuAround,
  ) {
    this.#menu = device && kindFacts(device.kind, job.kinds).menu
    this.#heardAt = around.clock()
  }

  received(text: string): void {
    this.#heardAt = this.around.clock()
    // Colours and the moving of the cursor are no part of what it says.
    const plain = stripVTControlCharacters(text)
    this.#drive?.received(plain)
    const lines = this.#own.received(plain)
    const values = this.#menu ? readingsIn(this.#menu, lines) : []
    if (this.device && values.length > 0) this.around.keepRead(this.device, values)
  }

  /** Somebody typed by hand. */
  typed(): void {
    this.#own.typed()
    this.#drive?.typed()
  }

  /** Begins a task. @returns why it does not */
  begin(stepKey: string, { task, answers }: StepInMenu): string | undefined {
    if (!this.#menu) return 'No description of this menu is known.'
    if (this.#drive) return 'Another task is under way in this menu.'
    this.#drive = new MenuDrive(this.#menu, task, answers)
    // What stands on the screen already: only an empty one is woken.
    this.#drive.received(this.#own.waiting)
    this.#stepKey = stepKey
    this.#logIn = ''
    this.#heardAt = this.around.clock()
    this.#say({ state: 'working' })
    this.#timer = setInterval(() => this.#look(), LOOKS_EVERY_MS)
    this.#timer.unref()
    return undefined
  }

  /** Ends the task under way: nothing more is sent. */
  stop(): void {
    clearInterval(this.#timer)
    this.#drive = undefined
  }

  closed(): void {
    if (this.#drive) this.#do(this.#drive.closed())
    this.stop()
  }

  #look(): void {
    const quiet = this.around.clock() - this.#heardAt
    if (this.#drive && quiet >= STANDS_MS) this.#do(this.#drive.next(quiet))
  }

  #do(move: MenuMove): void {
    switch (move.kind) {
      case 'wait':
        return
      case 'log-in':
        if (this.#logIn !== move.prompt) this.#say({ state: 'log-in', prompt: move.prompt })
        this.#logIn = move.prompt
        return
      case 'wake':
        return this.#send(wakeKeys[this.#menu?.wake ?? 'return'])
      case 'send':
        this.#send(move.text)
        return this.#say({ state: 'working' })
      case 'done':
        this.#say({ state: 'done', said: move.said })
        return this.stop()
      case 'stopped': {
        const { what, found, expected } = move
        this.#say({
          state: 'stopped',
          problem: { what, where: 'menu', found: quoted(found), expected: quoted(expected) },
        })
        return this.stop()
      }
    }
  }

  #send(text: string): void {
    this.#heardAt = this.around.clock()
    this.#own.typed()
    this.around.write(text)
  }

  #say(state: MenuState): void {
    const { sent = 0, answers = [] } = this.#drive ?? {}
    this.around.tell({ kind: 'menu', stepKey: this.#stepKey, sent, of: answers.length, ...state })
  }
}

/** A prompt ends with signs of its own: in a sentence it stands between quotes. */
const quoted = (text: string): string => (text === '' ? 'nothing' : `"${text}"`)
