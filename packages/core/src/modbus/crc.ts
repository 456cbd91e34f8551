/**
 * The checksum of RTU frames: polynomial 0xA001 (0x8005 reflected), start 0xFFFF. Sent low byte first.
 * @source Modbus over Serial Line V1.02, 6.2.2
 * @example crc16(new TextEncoder().encode('123456789')) // 0x4B37
 */
export function crc16(bytes: Uint8Array): number {
  let crc = 0xffff
  for (const byte of bytes) crc = (crc >>> 8) ^ (TABLE[(crc ^ byte) & 255] ?? 0)
  return crc
}

const TABLE = Uint16Array.from({ length: 256 }, (_, index) => {
  let value = index
  for (let bit = 0; bit < 8; bit += 1) value = value & 1 ? (value >>> 1) ^ 0xa001 : value >>> 1
  return value
})
