import type { Device, Port, Row } from './model'
import { blanksOf, deviceFields, portFields } from './rows'

/** A device of which nothing is known but its tag and kind; what a person or a file says is laid over it. */
export const blankDevice = blanksOf(deviceFields) as Omit<
  Device,
  keyof Row | 'position' | 'tag' | 'kind' | 'ports' | 'nodes'
>

/** A port of which nothing is planned yet. */
export const blankPort = blanksOf(portFields) as Omit<Port, keyof Row>
