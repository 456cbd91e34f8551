import type { Problem } from '@calm/contract'
import type { SerialPorts } from '@calm/contract/api'

/** Serial ports of this laptop; a note where they cannot be listed: then a path is typed. */
export async function serialPorts(): Promise<SerialPorts> {
  try {
    const { SerialPort } = await import('serialport')
    const list = await SerialPort.list()
    return {
      ports: list.map((port) => ({
        path: port.path,
        about: [port.manufacturer, port.serialNumber].filter(Boolean).join(' '),
      })),
      note: '',
    }
  } catch (reason) {
    const code = (reason as NodeJS.ErrnoException).code ?? String(reason)
    return { ports: [], note: `Serial ports cannot be listed here (${code}). Type the path of the port.` }
  }
}

/** Why a serial port did not open, in words that say what to do. */
export function serialProblem(path: string, message: string): Problem {
  const because = (what: string, expected: string): Problem => ({ what, where: 'via', expected, found: path })
  if (/no such file|cannot find|ENOENT|not found/i.test(message))
    return because(
      `There is no serial port ${path}.`,
      'the path of a port: plug the adapter in and look which one comes',
    )
  if (/lock|busy|in use|EBUSY/i.test(message))
    return because(`${path} is in use by another program.`, 'a port that nobody has open: close the other program')
  if (/permission|EACCES|access denied/i.test(message))
    return because(
      `This account may not open ${path}.`,
      'the right to it: on Linux the group dialout, then log in again',
    )
  return because(`${path} did not open: ${message}`, 'a serial port')
}
