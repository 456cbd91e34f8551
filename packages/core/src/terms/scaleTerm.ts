import { always, speaksModbus } from './applying'
import { ok, refusal } from '../units'
import { parseDecimal } from '../values'
import { takeOver } from './fixes'
import type { TermDefinition } from './term'

export const scaleTerm: TermDefinition<number> = {
  id: 'scale',
  name: 'Scale',
  group: 'words',
  relation: 'equal',
  why: 'The value is wrong by a factor.',
  severity: 'wrong',
  applies: speaksModbus,
  asked: always,
  explain: 'What the number is multiplied by to give the value in its unit.',
  example: '0.1',
  parse: (entry) => {
    const read = parseDecimal(entry.text, 'Scale')
    if (read.ok && read.value === 0) {
      return refusal('term.scale-zero', 'A scale of 0 makes every value 0.', entry.text, 'a number other than 0')
    }
    return read.ok ? ok(read.value) : read
  },
  format: (scale) => `× ${scale}`,
  agree: (controller, device, context) =>
    controller === device
      ? { state: 'equal' }
      : {
          state: 'at-odds',
          why: `${context.tags.device} means the number times ${device}, ${context.tags.controller} times ${controller}: ${Number((controller / device).toPrecision(4))} times too much.`,
          fixes: takeOver('scale', 'The scale', context, { controller: `× ${controller}`, device: `× ${device}` }),
        },
  source: 'common practice, no source',
}
