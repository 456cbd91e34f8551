/**
 * The checksum of ASCII frames: the two's complement of the sum of the bytes, in 8 bits.
 * @source Modbus over Serial Line V1.02, 6.2.1
 */
export function lrc(bytes: Uint8Array): number {
  return -bytes.reduce((sum, byte) => sum + byte, 0) & 255
}
