export { HandshakePicker, useChosenHandshake } from './handshakePicker'
export { NoHandshake } from './noHandshake'
