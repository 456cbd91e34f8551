import { dataTypes, type DataType } from '../values'

/** Data types that bits can carry, with how many bits each takes. Everything else is made of registers. */
export const bitTypes: Readonly<Partial<Record<DataType, number>>> = { bool: 1, bits16: 16 }

/** How many bits or registers a type takes; `undefined` where the count decides, or where bits cannot carry it. */
export function neededFor(type: DataType, ofBits: boolean): number | undefined {
  return ofBits ? bitTypes[type] : dataTypes[type].registers
}
