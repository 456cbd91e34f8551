import type { MenuValue } from '@calm/core/menu'
import type { Problem } from './problem'

/** What travels on the socket of a console, towards the page. */
export type ConsoleToPage =
  | { readonly kind: 'open' }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'problem'; readonly problem: Problem }
  | { readonly kind: 'closed' }
  /** How far a task in the menu is. */
  | ({ readonly kind: 'menu'; readonly stepKey: string; readonly sent: number; readonly of: number } & MenuState)
  /** What the console showed by itself: kept as facts of its device. */
  | {
      readonly kind: 'read'
      readonly tag: string
      readonly values: readonly { readonly is: MenuValue; readonly text: string }[]
    }

/** How a task in the menu stands. */
export type MenuState =
  | { readonly state: 'working' }
  /** A person types user and password. */
  | { readonly state: 'log-in'; readonly prompt: string }
  | { readonly state: 'done'; readonly said: string }
  | { readonly state: 'stopped'; readonly problem: Problem }

/** What a page sends: what was typed by hand, or a step of the walk to be done in the menu. */
export type ConsoleFromPage =
  | { readonly kind: 'type'; readonly text: string }
  | { readonly kind: 'menu'; readonly stepKey: string }
  | { readonly kind: 'menu-stop' }
