export { HandshakePicker, useChosenHandshake } from './handshakePicker'
export { NoHandshake } from './noHandshake'
export { BEGUN, controllersOf, useBeginHandshake } from './useBeginHandshake'
