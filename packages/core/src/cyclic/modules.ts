/** One value of a module: a name, and its bits. */
export interface Channel {
  readonly name: string
  readonly bits: number
}

/** One module in a row, in slot order. `undefined` sizes are not known yet, and nothing behind them can be placed. */
export interface Module {
  readonly name: string
  readonly inputs: readonly Channel[] | undefined
  readonly outputs: readonly Channel[] | undefined
}

/** How a head puts its modules one behind the other. */
export type PackingRule = 'bytes' | 'words' | 'aligned'

export const packingRules: Readonly<Record<PackingRule, { readonly name: string; readonly explain: string }>> = {
  bytes: { name: 'bytes packed', explain: 'each module begins at the next free byte' },
  words: { name: 'word per module', explain: 'each module begins at an even byte and takes whole words' },
  aligned: { name: 'values aligned', explain: 'each value begins where its own size divides the place' },
}

/** What stands in front of the modules' own data, in bytes. */
export interface Head {
  /** Status words in front of the inputs. */
  readonly inputBytes: number
  /** Control words in front of the outputs. */
  readonly outputBytes: number
}

/** Which byte of a value lies at the lower address. */
export type ByteFirst = 'low' | 'high'
