export { HandshakePicker, useChosenHandshake } from './handshakePicker'
