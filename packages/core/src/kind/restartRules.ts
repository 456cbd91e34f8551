/** What makes a new setting effective. */
export type RestartRule = 'at-once' | 'self-restart' | 'power-cycle' | 'save-and-restart' | 'download'

export interface RestartRuleFacts {
  readonly name: string
  readonly say: string
}

/** @source common practice, no source */
export const restartRules: Readonly<Record<RestartRule, RestartRuleFacts>> = {
  'at-once': { name: 'At once', say: 'The setting counts as soon as it is entered.' },
  'self-restart': { name: 'It restarts by itself', say: 'It restarts after the setting; wait its start-up time.' },
  'power-cycle': {
    name: 'Power off and on',
    say: 'Off until the display is dark, then on again. Until then the old setting counts.',
  },
  'save-and-restart': {
    name: 'Save, then restart',
    say: 'Saved in its menu and restarted from there; without that it is lost.',
  },
  download: { name: 'Download', say: 'It counts when the program or the set-up is loaded into it.' },
}
