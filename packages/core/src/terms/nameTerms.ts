import { on } from './applying'
import { lettersTerm } from './makeTerm'
import { equal, fits, type Told } from './relations'
import type { TermContext, TermDefinition, TermId } from './term'

const names = 'names' as const
const PRACTICE = 'common practice, no source'

interface NameFacts {
  readonly id: TermId
  readonly name: string
  readonly explain: string
  readonly why: string
  readonly example: string
  readonly asked?: (context: TermContext) => boolean
  readonly applies?: (context: TermContext) => boolean
}

const facts: readonly NameFacts[] = [
  {
    id: 'name',
    name: 'Name',
    explain: 'The name of the device as the controller, project or server has it, and as the device has it.',
    why: 'The controller looks for a device of another name.',
    example: 'pd-101',
    asked: on('supervision'),
  },
  {
    id: 'module-name',
    name: 'Module name',
    explain: 'The name of the module in the project, and in the device.',
    why: 'Tags of the program point to a module that is not there.',
    example: 'AI_Rack2_Slot3',
    applies: on('cyclic', 'bus'),
  },
  {
    id: 'order-code',
    name: 'Order code',
    explain: 'The order code in the project, and the one on the label: the right target before a download.',
    why: 'A download goes into another kind of device, or is refused at the end.',
    example: 'RIO-8DI',
  },
  {
    id: 'serial-number',
    name: 'Serial number',
    explain: 'The serial number that the project is bound to, and the one on the label: which of several twins.',
    why: 'A download goes into the twin next to it.',
    example: 'A12-0042',
  },
  {
    id: 'linked-id',
    name: 'Linked id',
    explain: 'The id by which one device knows another: the meter’s id in the inverter.',
    why: 'The device takes its values from another one, or from none.',
    example: '2',
    applies: on('modbus', 'supervision'),
  },
]

const ZONE = /^(?:UTC|GMT)?\s*([+-]\d{1,2})(?::?(\d{2}))?$/i

/** Minutes east of UTC; `undefined` where it is the name of a zone. */
function offsetOf(text: string): number | undefined {
  const typed = text.trim()
  if (/^(utc|gmt|z)$/i.test(typed)) return 0
  const [, hours, minutes = '0'] = ZONE.exec(typed) ?? []
  if (hours === undefined) return undefined
  return Math.sign(Number(`${hours[0]}1`)) * (60 * Math.abs(Number(hours)) + Number(minutes))
}

const zone: Told = {
  id: 'clock-zone',
  name: 'Time zone of the clock',
  group: names,
  explain: 'Whether both clocks run on one zone: UTC+1, -05:00, or a name of a zone, the same at both.',
  relation: 'equal',
  why: 'Logs and schedules stand an hour apart; leases and certificates count as expired.',
  severity: 'wrong',
  source: 'ISO 8601 4.3.13 for offsets',
}
export const clockZoneTerm: TermDefinition<string> = {
  ...lettersTerm(zone),
  example: 'UTC+1',
  severity: 'wrong',
  relation: 'equal',
  agree: (controller, device, context) => {
    if (controller === device) return equal
    const [here, there] = [offsetOf(controller), offsetOf(device)]
    if (here !== undefined && there !== undefined) {
      if (here === there) return fits('The same offset; summer time is another question')
      return {
        state: 'at-odds',
        why: `The clocks stand ${Math.abs(here - there) / 60} h apart. ${zone.why}`,
        fixes: [
          {
            end: 'device',
            text: controller,
            label: `Set ${context.tags.device} to ${controller}`,
            sideEffect: 'Set its clock again afterwards.',
          },
        ],
      }
    }
    return lettersTerm(zone).agree(controller, device, context)
  },
}

export const nameTerms = facts.map((each) => lettersTerm({ group: names, source: PRACTICE, ...each }))
