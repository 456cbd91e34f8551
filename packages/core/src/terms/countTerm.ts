import { limits } from '../modbus'
import { parseWholeNumber } from '../units'
import { dataTypes, type DataType } from '../values'
import { takeOver } from './fixes'
import type { TermDefinition } from './term'

export const countTerm: TermDefinition<number> = {
  id: 'count',
  name: 'Count',
  group: 'request',
  explain: 'How many registers are read.',
  example: '2',
  parse: (entry) =>
    parseWholeNumber(entry.text, {
      name: 'Count',
      min: 1,
      max: limits.readRegisters,
      reason: 'One request reads at most 125 registers.',
    }),
  format: (count) => `${count} register${count === 1 ? '' : 's'}`,
  agree: (controller, device, context) => {
    const type = context.terms['data-type']?.device?.text
    const needed = type && type in dataTypes ? dataTypes[type as DataType].registers : undefined
    if (controller === device && (needed === undefined || controller >= needed)) return { state: 'equal' }
    const fixes = takeOver('count', 'The count', context, {
      controller: `${controller} registers`,
      device: `${device} registers`,
    })
    if (controller === device) {
      return {
        state: 'at-odds',
        why: `${dataTypes[type as DataType].name} takes ${needed} registers; both ends say ${controller}.`,
        fixes: (['controller', 'device'] as const).map((end) => ({
          end,
          text: String(needed),
          label: `Set ${context.tags[end]} to ${needed} registers`,
          sideEffect: 'Set the other end too.',
        })),
      }
    }
    return {
      state: 'at-odds',
      why:
        controller < device
          ? `${context.tags.controller} reads ${controller} of ${device} registers: part of the value is missing.`
          : `${context.tags.controller} reads ${controller} registers, the value has ${device}: it takes foreign ones with it.`,
      fixes,
    }
  },
  source: 'Modbus Application Protocol V1.1b3, 6.3 and 6.4',
}
