import { always, speaksModbus } from './applying'
import { ok, refusal } from '../units'
import { dataTypes, type DataType } from '../values'
import { tables } from '../modbus'
import { tableAt } from './around'
import { bitTypes } from './bitTypes'
import { takeOver } from './fixes'
import type { TermDefinition } from './term'

/** What programs call the types. @source IEC 61131-3, table 10 */
const commonNames: Readonly<Record<string, DataType>> = {
  usint: 'uint8-low',
  byte: 'uint8-low',
  uint8high: 'uint8-high',
  uint8low: 'uint8-low',
  sint: 'int8-low',
  int8high: 'int8-high',
  int8low: 'int8-low',
  real: 'float32',
  float: 'float32',
  lreal: 'float64',
  double: 'float64',
  int: 'int16',
  uint: 'uint16',
  word: 'uint16',
  dint: 'int32',
  udint: 'uint32',
  dword: 'uint32',
  lint: 'int64',
  ulint: 'uint64',
}

export const dataTypeTerm: TermDefinition<DataType> = {
  id: 'data-type',
  name: 'Data type',
  group: 'words',
  relation: 'equal',
  why: 'The same bits make another number.',
  severity: 'wrong',
  applies: speaksModbus,
  asked: always,
  explain: 'How the bits of the registers make a value.',
  example: 'float32',
  choices: (Object.keys(dataTypes) as DataType[])
    .filter((type) => type !== 'ascii')
    .map((type) => ({ text: type, label: dataTypes[type].name })),
  parse: (entry) => {
    const typed = entry.text.trim().toLowerCase().replace(/[\s-]/g, '')
    if (Object.hasOwn(dataTypes, typed)) return ok(typed as DataType)
    const known = Object.hasOwn(commonNames, typed) ? commonNames[typed] : undefined
    if (known) return ok(known)
    return refusal(
      'term.data-type',
      `"${entry.text.trim()}" is not a data type known here.`,
      entry.text,
      Object.keys(dataTypes).join(', '),
    )
  },
  format: (type) => dataTypes[type].name,
  alone: (type, end, context) => {
    const table = tableAt(context.terms, end)
    if (!table || tables[table].bits !== 1 || type in bitTypes) return undefined
    return {
      state: 'at-odds',
      why: `${tables[table].one.replace(/^a/, 'A')} is one bit; ${dataTypes[type].name} is made of registers.`,
      fixes: [
        {
          end,
          text: 'bool',
          label: `Read ${context.tags[end]} as bool`,
          sideEffect: 'One bit for each value. If it is a number, change the function code instead.',
        },
      ],
    }
  },
  agree: (controller, device, context) =>
    controller === device
      ? { state: 'equal' }
      : {
          state: 'at-odds',
          why: `${context.tags.device} sends ${dataTypes[device].name}; ${context.tags.controller} takes it for ${dataTypes[controller].name}. The same bits make another number.`,
          fixes: takeOver('data-type', 'The data type', context, {
            controller: dataTypes[controller].name,
            device: dataTypes[device].name,
          }),
        },
  source: 'IEEE 754-2019; IEC 61131-3 table 10 for the names of types',
}
