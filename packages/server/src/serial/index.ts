export { serialPorts, serialProblem } from './ports'
export { serialSettings } from './settings'
