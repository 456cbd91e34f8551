import { both, overIp, speaksModbus } from './applying'
import { parseWholeNumber } from '../units'
import { takeOver } from './fixes'
import type { TermDefinition } from './term'

export const portTerm: TermDefinition<number> = {
  id: 'port',
  name: 'TCP port',
  group: 'reach',
  relation: 'equal',
  why: 'Nobody listens at another port.',
  severity: 'never',
  applies: both(speaksModbus, overIp),
  asked: speaksModbus,
  explain: 'The port that the controller opens, and the one that the device listens on. 502 is registered for Modbus.',
  example: '502',
  parse: (entry) =>
    parseWholeNumber(entry.text, { name: 'TCP port', min: 1, max: 65_535, reason: 'A port is a 16-bit number.' }),
  format: String,
  agree: (controller, device, context) =>
    controller === device
      ? { state: 'equal' }
      : {
          state: 'at-odds',
          why: `${context.tags.controller} opens port ${controller}; ${context.tags.device} listens on ${device}. The connection is refused.`,
          fixes: takeOver('port', 'The port', context, { controller: `port ${controller}`, device: `port ${device}` }),
        },
  source: 'Modbus Messaging on TCP/IP V1.0b, 4.3.1',
}
