import { always, speaksModbus } from './applying'
import { limits } from '../modbus'
import { parseWholeNumber } from '../units'
import { dataTypes } from '../values'
import { functionAt, readsBits } from './around'
import { neededFor } from './bitTypes'
import { dataTypeAt } from './dataTypeAt'
import { takeOver } from './fixes'
import type { End, HandshakeTerms, TermDefinition } from './term'

/** What is counted at an end. @example counted(2, terms, 'device') // '2 registers' */
function counted(count: number, terms: HandshakeTerms | undefined, end: End): string {
  const word = terms && readsBits(terms, end) ? 'bit' : 'register'
  return `${count} ${word}${count === 1 ? '' : 's'}`
}

export const countTerm: TermDefinition<number> = {
  id: 'count',
  name: 'Count',
  group: 'request',
  relation: 'equal, and enough for the type',
  why: 'Part of the value is missing, or foreign words come with it.',
  severity: 'wrong',
  applies: speaksModbus,
  asked: always,
  explain: 'How many registers are read; for coils and discrete inputs how many bits.',
  example: '2',
  parse: (entry, around) => {
    // Where no function code is known yet, a count of bits may still be right.
    const code = around ? functionAt(around.terms, around.end) : undefined
    const ofRegisters = around !== undefined && code !== undefined && !readsBits(around.terms, around.end)
    return parseWholeNumber(entry.text, {
      name: 'Count',
      min: 1,
      max: ofRegisters ? limits.readRegisters : limits.readBits,
      reason: ofRegisters
        ? `One request reads at most ${limits.readRegisters} registers.`
        : `One request reads at most ${limits.readBits} bits, or ${limits.readRegisters} registers.`,
    })
  },
  format: (count, _entry, around) => counted(count, around?.terms, around?.end ?? 'device'),
  agree: (controller, device, context) => {
    const type = dataTypeAt(context.terms, 'device') ?? dataTypeAt(context.terms, 'controller')
    const needed = type === undefined ? undefined : neededFor(type, readsBits(context.terms, 'device'))
    if (controller === device && (needed === undefined || controller >= needed)) return { state: 'equal' }
    const shown = {
      controller: counted(controller, context.terms, 'controller'),
      device: counted(device, context.terms, 'device'),
    }
    if (controller === device && type !== undefined && needed !== undefined) {
      return {
        state: 'at-odds',
        why: `${dataTypes[type].name} takes ${counted(needed, context.terms, 'device')}; both ends say ${controller}.`,
        fixes: (['controller', 'device'] as const).map((end) => ({
          end,
          text: String(needed),
          label: `Set ${context.tags[end]} to ${counted(needed, context.terms, end)}`,
          sideEffect: 'Set the other end too.',
        })),
      }
    }
    return {
      state: 'at-odds',
      why:
        controller < device
          ? `${context.tags.controller} reads ${controller} of ${shown.device}: part of the value is missing.`
          : `${context.tags.controller} reads ${shown.controller}, the value has ${device}: it takes foreign ones with it.`,
      fixes: takeOver('count', 'The count', context, shown),
    }
  },
  source: 'Modbus Application Protocol V1.1b3, 6.1 to 6.4',
}
