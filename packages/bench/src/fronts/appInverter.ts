import type { FrontView } from '@calm/contract/live'
import type { FrontFacts, Surroundings } from './front'
import { PageDevice } from './pageDevice'

/**
 * An inverter that is set by an app on a phone in its own access point. Until it was told its network it is on none
 * but that; its page stands for the app.
 */
export class AppInverter extends PageDevice {
  constructor(facts: FrontFacts, accessPoint: string, around: Surroundings) {
    super(facts, 120, accessPoint, around, true)
  }

  override lamps(): FrontView['lamps'] {
    const waits = this.address() === this.factory
    return [
      {
        lamp: 'Status',
        words: !this.running ? 'is dark' : waits ? 'flashes white once a second' : 'is white without flashing',
      },
      { lamp: 'Network', words: this.running && !waits ? 'is green without flashing' : 'is dark' },
    ]
  }
}
