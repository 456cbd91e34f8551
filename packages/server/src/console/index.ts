export { serveConsoles, type ConsoleContext } from './consoles'
export { openSerial, type Transport } from './transport'
export { Transcript } from './transcript'
