import { readLineSettings, type SerialSettings } from '@calm/core/serial'

/** Settings of a line in short, as they stand in a job or in an address of a console; `undefined` where they are none. */
export function serialSettings(text: string): SerialSettings | undefined {
  const read = readLineSettings(text)
  return read.ok ? read.value : undefined
}
