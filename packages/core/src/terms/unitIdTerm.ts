import { always, speaksModbus } from './applying'
import { parseUnitId, type TcpUnit } from '../modbus'
import { takeOver } from './fixes'
import type { TermDefinition } from './term'

export const unitIdTerm: TermDefinition<TcpUnit> = {
  id: 'unit-id',
  name: 'Unit id',
  group: 'reach',
  relation: 'equal',
  why: 'Another unit answers, or none.',
  severity: 'never',
  applies: speaksModbus,
  asked: always,
  explain: 'Which unit behind the address is meant. A device addressed directly over TCP often takes 255 or 1.',
  example: '1',
  parse: (entry) => parseUnitId(entry.text, 'tcp'),
  format: String,
  agree: (controller, device, context) =>
    controller === device
      ? { state: 'equal' }
      : {
          state: 'at-odds',
          why: `${context.tags.controller} asks unit ${controller}; ${context.tags.device} answers as unit ${device}. It stays silent, or refuses.`,
          fixes: takeOver('unit-id', 'The unit id', context, {
            controller: `unit ${controller}`,
            device: `unit ${device}`,
          }),
        },
  source: 'Modbus Messaging on TCP/IP V1.0b, 4.4.2.3',
}
