/**
 * Limits of the protocol. Named once; nothing else in the code repeats the numbers.
 * @source Modbus Application Protocol Specification V1.1b3, 4.1 and clause 6; Modbus over Serial Line V1.02, 2.2, 2.3
 * and 2.5; Modbus Messaging on TCP/IP V1.0b, 3.1.3 and 4.4.2.3
 */
export const limits = {
  /** FC 1 and 2: bits in one read. */
  readBits: 2000,
  /** FC 3 and 4: registers in one read. */
  readRegisters: 125,
  /** FC 15: coils in one write. */
  writeCoils: 1968,
  /** FC 16: registers in one write. */
  writeRegisters: 123,
  /** FC 23: registers read while writing. */
  readWriteRead: 125,
  /** FC 23: registers written while reading. */
  readWriteWrite: 121,
  /** Bytes of a protocol data unit. */
  pduBytes: 253,
  /** Bytes of a TCP frame: 7 of header and the PDU. */
  tcpBytes: 260,
  /** Bytes of an RTU frame: address, PDU, checksum. */
  rtuBytes: 256,
  /** Bytes of an ASCII frame before they are written as digits: address, PDU, checksum. */
  asciiBytes: 255,
  /** The last protocol address. */
  lastAddress: 65_535,
  /** The largest 16-bit word; a transaction number is one too. */
  word: 0xffff,
  /** The largest byte; lengths, object ids and exception codes are bytes. */
  byte: 0xff,
  /** The highest bit of a register. */
  lastBit: 15,
  /** The last number that the five-digit notation can hold: a table digit and four digits, from 1. */
  fiveDigitNumber: 9999,
  /** On a serial line: every unit listens, none answers. */
  broadcastUnit: 0,
  /** First unit of its own. */
  firstUnit: 1,
  /** Last unit on a serial line; 248 to 255 are reserved there. */
  lastSerialUnit: 247,
  /** Over TCP: the device itself. */
  directTcpUnit: 255,
} as const

/** The port registered for Modbus TCP. @source Modbus Messaging on TCP/IP V1.0b, 4.3.1 */
export const MODBUS_TCP_PORT = 502
