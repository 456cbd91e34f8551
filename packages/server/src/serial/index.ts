export { serialPorts, serialProblem } from './ports'
export { frameGapMs, serialSettings, type SerialSettings } from './settings'
