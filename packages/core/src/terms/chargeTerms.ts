import { ok, refusal, type Result } from '../units'
import { on } from './applying'
import { MS, timeAt } from './exchangeTerms'
import { choiceTerm, quantityTerm } from './makeTerm'
import { equal, fits, setTo } from './relations'
import { quantityText, readStretch, type Stretch } from './readers'
import type { TermContext, TermDefinition, TermId } from './term'

const charge = 'charge' as const
const PRACTICE = 'common practice, no source'

interface ModeFacts {
  readonly id: TermId
  readonly name: string
  readonly explain: string
  readonly why: string
  readonly words: Readonly<Record<string, string>>
  readonly also?: Readonly<Record<string, string>>
  readonly applies?: (context: TermContext) => boolean
}

/** Who is in charge: what the controller needs, and what the device is in. "It communicates but does not obey" points here. */
const modes: readonly ModeFacts[] = [
  {
    id: 'config-run',
    name: 'Configure or run',
    explain: 'Whether the device takes settings or does its work. A step that needs one is followed by its return.',
    why: 'It answers, keeps its old values and obeys nothing.',
    words: { run: 'run', configure: 'configure' },
    also: { config: 'configure', setup: 'configure', operate: 'run' },
  },
  {
    id: 'local-remote',
    name: 'Local or remote',
    explain: 'Whether the keypad or the network commands.',
    why: 'It communicates but does not obey.',
    words: { remote: 'remote', local: 'local' },
    also: { net: 'remote', network: 'remote', keypad: 'local', hand: 'local', auto: 'remote' },
  },
  {
    id: 'program-run',
    name: 'Program or run',
    explain: 'What the mode switch of a controller stands at.',
    why: 'It answers and its outputs stay as they are; or a download is refused.',
    words: { run: 'run', program: 'program', remote: 'remote run' },
    also: { prog: 'program', stop: 'program', rem: 'remote' },
  },
  {
    id: 'port-mode',
    name: 'Mode of the port',
    explain: 'What the port is switched to: this protocol, another one, or a console.',
    why: 'The port speaks something else: silence, or signs that make no sense.',
    words: { protocol: 'this protocol', console: 'console', other: 'another protocol', off: 'off' },
    also: { user: 'other', system: 'console', terminal: 'console' },
    applies: on('modbus', 'command'),
  },
  {
    id: 'mode-switch',
    name: 'Trigger mode',
    explain: 'Whether a device speaks when it is asked, when something happens, or all the time.',
    why: 'Nobody waits for what comes by itself, or everybody waits for what never comes.',
    words: { asked: 'when asked', event: 'by an event', continuous: 'all the time' },
    also: { host: 'asked', external: 'event', stream: 'continuous' },
    applies: on('command'),
  },
  {
    id: 'command-source',
    name: 'Source of the command',
    explain: 'Where a drive takes start and stop from.',
    why: 'It communicates but does not start.',
    words: { network: 'network', terminals: 'terminals', keypad: 'keypad' },
    also: { bus: 'network', digital: 'terminals', local: 'keypad' },
    applies: ({ roles }) => roles?.device === 'drive',
  },
  {
    id: 'setpoint-source',
    name: 'Source of the setpoint',
    explain: 'Where a drive takes its speed from.',
    why: 'It starts and runs at another speed, or at none.',
    words: { network: 'network', analog: 'analog input', keypad: 'keypad' },
    also: { bus: 'network', potentiometer: 'keypad' },
    applies: ({ roles }) => roles?.device === 'drive',
  },
  {
    id: 'settings-keeper',
    name: 'Who keeps the settings',
    explain: 'The device itself, the controller at every start, a set-up tool, or a program.',
    why: 'Two that each hold themselves for the keeper: the one that starts last wins, every time.',
    words: { device: 'the device', controller: 'the controller', tool: 'a set-up tool', program: 'a program' },
  },
  {
    id: 'send-scope',
    name: 'What "send" covers',
    explain:
      'Whether sending from the set-up tool covers everything or the open page only: as it is meant, and as the tool does it.',
    why: 'Pages that were not sent keep their old values.',
    words: { all: 'everything', page: 'one page' },
  },
  {
    id: 'fail-safe',
    name: 'When the controller is gone',
    explain: 'What the outputs do when the controller is gone: as the plant needs it, and as the device is set.',
    why: 'Something keeps running, or stops, when the network fails.',
    words: { off: 'off', hold: 'hold last', preset: 'preset value' },
    also: { zero: 'off', freeze: 'hold', last: 'hold' },
    applies: on('modbus', 'cyclic', 'bus'),
  },
]

export const modeTerms = modes.map(({ words, also, ...each }) =>
  choiceTerm({ group: charge, source: PRACTICE, severity: 'wrong', words, ...(also && { also }), ...each }),
)

/** Reads register stretches with commas between them: `40001 to 40010, 40050`. */
export function readStretches(text: string): Result<readonly Stretch[]> {
  const typed = text.trim()
  if (/^(none|nobody)$/i.test(typed)) return ok([])
  const parts = typed
    .split(/\s*,\s*/)
    .map((part) => readStretch(part.replace(/(\d)\s*-\s*(\d)/g, '$1 to $2'), REGISTERS))
  for (const part of parts) if (!part.ok) return part
  return parts.length === 0
    ? refusal('term.blank', 'Nothing is said.', 'nothing', 'for example 40001 to 40010, or none')
    : ok(parts.flatMap((part) => (part.ok ? [part.value] : [])))
}
const REGISTERS = { name: 'Register', unit: '', least: 0, most: 465_536, whole: true }

const stretchText = ({ least, most }: Stretch) => (least === most ? String(least) : `${least} to ${most}`)

/** Two writers clash only where their registers overlap. */
export const settingsWritersTerm: TermDefinition<readonly Stretch[]> = {
  id: 'settings-writers',
  name: 'Who writes where',
  group: charge,
  explain:
    'Which registers the controller writes, and which somebody else writes: a set-up tool, a program, a display.',
  example: '40001 to 40010',
  relation: 'no register is written by two',
  why: 'Two writers undo each other: the value jumps, and nobody finds out who.',
  severity: 'wrong',
  applies: on('modbus', 'cyclic'),
  parse: (entry) => readStretches(entry.text),
  format: (stretches) => (stretches.length === 0 ? 'nobody' : stretches.map(stretchText).join(', ')),
  agree: (controller, others) => {
    if (controller.length === 0 || others.length === 0) return equal
    const shared = controller.flatMap((one) =>
      others.flatMap((other) => {
        const [least, most] = [Math.max(one.least, other.least), Math.min(one.most, other.most)]
        return least <= most ? [{ least, most }] : []
      }),
    )
    return shared.length === 0
      ? fits('Different registers')
      : {
          state: 'at-odds',
          why: `Both write ${shared.map(stretchText).join(', ')}. Two writers undo each other. Decide who writes there.`,
          fixes: [],
        }
  },
  source: PRACTICE,
}

/** How often the controller writes: its update or poll interval, in ms. */
const writesEvery = (context: TermContext): number | undefined =>
  timeAt(context, 'update-interval', ['controller']) ?? timeAt(context, 'poll-interval', ['controller'])

export const watchdogTerm = quantityTerm({
  id: 'watchdog',
  name: 'Watchdog',
  group: charge,
  explain: 'How often the controller writes, and after how long without it the device fails safe.',
  relation: 'longer than the controller’s interval',
  why: 'A shorter watchdog trips while everything is well; none at all never trips.',
  severity: 'wrong',
  applies: on('modbus', 'cyclic', 'bus'),
  field: { name: 'Watchdog', ...MS },
  example: '1000 ms',
  derive: (end, context) => {
    const every = end === 'controller' ? writesEvery(context) : undefined
    return every ? { text: String(every), origin: 'its interval' } : undefined
  },
  agree: (writes, trips, context) => {
    if (trips === 0)
      return {
        state: 'at-odds',
        why: `${context.tags.device} has no watchdog: it keeps its last outputs when the controller is gone.`,
        fixes: [setTo('device', String(Math.max(1, writes * 3)), quantityText(Math.max(1, writes * 3), 'ms'), context)],
      }
    if (trips <= writes)
      return {
        state: 'at-odds',
        why: `It trips after ${quantityText(trips, 'ms')}, and is written every ${quantityText(writes, 'ms')}.`,
        fixes: [setTo('device', String(writes * 3), quantityText(writes * 3, 'ms'), context)],
      }
    return fits(
      trips < 2 * writes
        ? 'One lost message trips it'
        : `Trips after ${Math.floor(trips / Math.max(writes, 1))} lost messages`,
    )
  },
  source: PRACTICE,
})
