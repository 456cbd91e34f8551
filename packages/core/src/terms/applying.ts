import { exchangeOf, type Exchange } from './exchanges'
import type { TermContext } from './term'

/** Where a term applies, as small conditions that can be put together. */
type When = (context: TermContext) => boolean

export const on =
  (...exchanges: readonly Exchange[]): When =>
  (context) =>
    exchanges.includes(exchangeOf(context))

export const both =
  (...all: readonly When[]): When =>
  (context) =>
    all.every((each) => each(context))

export const always: When = () => true
export const never: When = () => false

/** Whether the ends reach each other by IPv4: a unit straight on the controller's own line is never judged by it. */
export const overIp: When = (context) =>
  context.carrier !== 'line' && exchangeOf(context) !== 'bus' && exchangeOf(context) !== 'analog'

/** Whether the device sits on a line with a bit rate and a parity. */
export const onSerialLine: When = ({ line }) => line?.isSerial === true

/** Whether characters of Modbus RTU or ASCII may go over a line of it. */
export const speaksModbus = on('modbus')

/** Whether something between the two ends passes on what is asked. */
export const passedOn: When = (context) => context.passedOn === true
