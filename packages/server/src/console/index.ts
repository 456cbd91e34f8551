export { serveConsoles } from './consoles'
export { openSerial, type Transport } from './transport'
export { Transcript } from './transcript'
