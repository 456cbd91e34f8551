/** An exception code as it came; codes outside the table are kept, never guessed. */
export interface ExceptionMeaning {
  readonly name: string
  /** What it mostly means in the field, and what to look at. */
  readonly hint: string
}

const meanings: Readonly<Record<number, ExceptionMeaning>> = {
  1: {
    name: 'illegal function',
    hint: 'The device does not know this function code. Holding and input registers are often mixed up.',
  },
  2: {
    name: 'illegal data address',
    hint: 'The device has no such register, or the count reaches past the end of its map.',
  },
  3: { name: 'illegal data value', hint: 'The count or the value is not allowed.' },
  4: { name: 'server device failure', hint: 'The device could not do it. Look at the device itself.' },
  5: { name: 'acknowledge', hint: 'Accepted; it takes a while. Ask again later.' },
  6: { name: 'server device busy', hint: 'Ask again later, less often.' },
  8: { name: 'memory parity error', hint: 'The extended memory of the device did not pass its own check.' },
  10: { name: 'gateway path unavailable', hint: 'The gateway has no line for this unit id.' },
  11: { name: 'gateway target failed to respond', hint: 'The gateway asked; the unit behind it stayed silent.' },
}

/** @source Modbus Application Protocol V1.1b3, clause 7; the hints are common practice, no source */
export function exceptionMeaning(code: number): ExceptionMeaning {
  return (
    meanings[code] ?? {
      name: `exception ${code}`,
      hint: 'This code is not in the standard; see the manual of the device.',
    }
  )
}
