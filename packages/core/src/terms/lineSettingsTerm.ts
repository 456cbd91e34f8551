import { onSerialLine, speaksModbus } from './applying'
import { judgeFormats, lineSettingsText, readLineSettings, type FormatFinding, type SerialSettings } from '../serial'
import type { TermContext, TermDefinition, TermFix } from './term'

const words = (found: readonly FormatFinding[]) => found.map(({ say, why }) => `${say} ${why}`).join(' ')

/** Either end can be set; what is set at the line is set for every unit on it. */
function fixes(controller: SerialSettings, device: SerialSettings, { tags, line }: TermContext): readonly TermFix[] {
  const [here, there] = [lineSettingsText(controller), lineSettingsText(device)]
  return [
    {
      end: 'device',
      text: here,
      label: `Set ${tags.device} to ${here}`,
      sideEffect: `Set it at ${tags.device} too; most count it after a restart.`,
    },
    {
      end: 'controller',
      text: there,
      label: `Set the line to ${there}`,
      sideEffect: `Then every other unit on ${line?.name ?? 'it'} must be set to it too.`,
    },
  ]
}

/** How characters go over the line of a device: the line's own settings against those that the device has. */
export const lineSettingsTerm: TermDefinition<SerialSettings> = {
  id: 'line-settings',
  name: 'Line settings',
  group: 'line',
  relation: 'equal; stop bits may differ where the receiver takes it',
  why: 'The unit stays silent, as if it had no power.',
  severity: 'never',
  asked: speaksModbus,
  explain: 'Bit rate, data bits, parity and stop bits. With another parity a unit is silent, as if it had no power.',
  example: '9600 8N1',
  applies: onSerialLine,
  parse: (entry) => readLineSettings(entry.text),
  format: lineSettingsText,
  agree: (controller, device, context) => {
    const found = judgeFormats(controller, device, 'rtu')
    if (found.some(({ verdict }) => verdict === 'never'))
      return { state: 'at-odds', why: words(found), fixes: fixes(controller, device, context) }
    return found.length > 0 ? { state: 'fits', remark: words(found) } : { state: 'equal' }
  },
  source: 'Modbus over Serial Line V1.02, 2.5.1; differing parity: common practice, no source',
}
