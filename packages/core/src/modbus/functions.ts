/** Function codes that this codec speaks. 43 means 43/14, read device identification. */
export type FunctionCode = 1 | 2 | 3 | 4 | 5 | 6 | 15 | 16 | 22 | 23 | 43

/** @source Modbus Application Protocol V1.1b3, clause 6 */
export const functionNames: Readonly<Record<FunctionCode, string>> = {
  1: 'read coils',
  2: 'read discrete inputs',
  3: 'read holding registers',
  4: 'read input registers',
  5: 'write single coil',
  6: 'write single register',
  15: 'write multiple coils',
  16: 'write multiple registers',
  22: 'mask write register',
  23: 'read/write multiple registers',
  43: 'read device identification',
}

/** @example functionText(4) // '04 read input registers' */
export function functionText(code: FunctionCode): string {
  return `${String(code).padStart(2, '0')} ${functionNames[code]}`
}
