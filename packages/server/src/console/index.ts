export { serveConsoles, type ConsoleContext } from './consoles'
export { serialPorts, serialProblem, serialSettings } from './transport'
export { Transcript } from './transcript'
