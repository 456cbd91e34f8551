export { serialPorts, serialProblem } from './ports'
export { characterMs, frameGapMs, serialSettings, type SerialSettings } from './settings'
