import type { FrontView } from '@calm/contract/live'
import { KeypadDrive } from './keypadDrive'

/** A meter with the same keys and menu, which has no mode and takes what was set when it is saved: it restarts with it. */
export class MenuMeter extends KeypadDrive {
  override deliver(): void {
    super.deliver()
    super.turn('mode', 'local')
  }

  override switches(): FrontView['switches'] {
    return []
  }

  override turn(): boolean {
    return false
  }

  override keys(): FrontView['keys'] {
    return [...super.keys(), { id: 'save', label: 'Save' }]
  }

  override press(id: string): boolean {
    if (id !== 'save') return super.press(id)
    if (!this.running) return true
    this.cameOn()
    this.restart()
    return true
  }
}
