import { always, speaksModbus } from './applying'
import { functionText, type FunctionCode } from '../modbus'
import { ok, parseWholeNumber, refusal } from '../units'
import { takeOver } from './fixes'
import type { TermDefinition } from './term'

/** Function codes that read; a handshake about a reading uses one of these. */
export type ReadFunction = Extract<FunctionCode, 1 | 2 | 3 | 4>
const READS: readonly ReadFunction[] = [1, 2, 3, 4]

export const functionCodeTerm: TermDefinition<ReadFunction> = {
  id: 'function-code',
  name: 'Function code',
  group: 'request',
  relation: 'equal',
  why: 'Another table is read: other values, or exception 2.',
  severity: 'never',
  applies: speaksModbus,
  asked: always,
  explain: 'Which of the four tables is read: coils, discrete inputs, holding registers or input registers.',
  example: '04',
  choices: READS.map((code) => ({ text: String(code).padStart(2, '0'), label: functionText(code) })),
  parse: (entry) => {
    const typed = entry.text.trim().replace(/^(fc\s*)?0?(?=\d)/i, '')
    const read = parseWholeNumber(typed, { name: 'Function code', min: 1, max: 127 })
    if (!read.ok) return read
    const known = READS.find((code) => code === read.value)
    return known
      ? ok(known)
      : refusal(
          'term.function-code',
          `Function code ${read.value} does not read values.`,
          entry.text,
          '01, 02, 03 or 04',
        )
  },
  format: (code) => functionText(code).replace('read ', ''),
  agree: (controller, device, context) =>
    controller === device
      ? { state: 'equal' }
      : {
          state: 'at-odds',
          why: `${context.tags.controller} asks with ${functionText(controller)}; ${context.tags.device} keeps the value for ${functionText(device)}. It answers exception 1 or 2, or another value.`,
          fixes: takeOver('function-code', 'The function code', context, {
            controller: functionText(controller),
            device: functionText(device),
          }),
        },
  source: 'Modbus Application Protocol V1.1b3, 4.3 and 6',
}
