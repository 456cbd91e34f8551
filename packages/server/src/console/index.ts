export { serveConsoles, type ConsoleContext } from './consoles'
export { openSerial, serialPorts, serialProblem, serialSettings, type Transport } from './transport'
export { Transcript } from './transcript'
