/** How the two ends of a handshake speak. Decides which terms there are between them. */
export type Exchange = 'modbus' | 'cyclic' | 'bus' | 'command' | 'analog' | 'supervision'

/** What is asked of an exchange, and what this program can do with it. */
export interface ExchangeFacts {
  readonly name: string
  readonly explain: string
  /** Whether this program can read its values itself. */
  readonly isRead: boolean
}

export const exchanges: Readonly<Record<Exchange, ExchangeFacts>> = {
  modbus: {
    name: 'Modbus',
    explain: 'Registers asked for over TCP, straight or through a gateway, or on a serial line.',
    isRead: true,
  },
  cyclic: {
    name: 'Cyclic I/O',
    explain: 'Inputs and outputs exchanged over Ethernet by themselves, at an update interval.',
    isRead: false,
  },
  bus: {
    name: 'Field bus',
    explain: 'A master asks the nodes of a bus in turn; each has a node and a description file.',
    isRead: false,
  },
  command: {
    name: 'Command and answer',
    explain: 'Texts or bytes asked for one by one: scanners, scales, instruments.',
    isRead: false,
  },
  analog: {
    name: 'Analog channel',
    explain: 'A current or a voltage: the sensor at one end, a channel of an input or output at the other.',
    isRead: false,
  },
  supervision: {
    name: 'Supervision',
    explain: 'A server or a supervisory controller that takes a device in by its name and version.',
    isRead: false,
  },
}

/** The exchange of a handshake whose row says nothing: everything was Modbus at first. */
export const exchangeOf = (context: { readonly exchange?: Exchange | undefined }): Exchange =>
  context.exchange ?? 'modbus'
