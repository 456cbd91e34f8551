import type { Act, Phase, RunStep } from '../run'

type More = Partial<Omit<RunStep, 'id' | 'phase' | 'kind' | 'say'>>

const make =
  (kind: RunStep['kind']) =>
  (phase: Phase, id: string, say: string, more: More = {}): RunStep => ({ id, phase, kind, say, ...more })

export const prepare = make('prepare')
export const todo = make('do')
export const inTurn = make('turn')
export const set = make('set')
export const wait = make('wait')
export const expectation = make('expect')
export const record = make('record')
export const check = make('check')
export const decide = make('decide')

/** A caution stands above the step it protects and blocks it until it is read. */
export function caution(
  phase: Phase,
  id: string,
  say: string,
  covers: readonly Act[],
  protects: RunStep['protects'] = 'people',
) {
  return { id, phase, kind: 'caution', say, covers, protects } as const satisfies RunStep
}

/** @source common practice, no source; local rules, the manual and licensed people count */
export const electricity = caution(
  'before-power',
  'isolate',
  'Isolate {group}, lock it, prove it dead before any terminal of {tag} is touched. Local rules, the manual and a licensed person decide.',
  ['wires'],
)

export const powering = caution(
  'before-power',
  'clear',
  'When {group} goes on, what hangs on {tag} may get power. Clear the area, covers on, nobody at a terminal.',
  ['powers'],
)

export const moving = caution(
  'before-power',
  'may-move',
  'A drive with power can start on a stray signal. Safe-torque-off open or the motor isolated; wait until its capacitors have discharged before the cover comes off.',
  ['powers', 'wires'],
)

export const writing = caution(
  'set',
  'right-one',
  'The next step writes to {tag}. Make sure that it is this device, and that nothing depends on its present address.',
  ['writes'],
  'plant',
)

export const findAgain = [
  check('verify', 'find-again', '{tag} answers at {planned}.', {
    check: 'reached-planned',
    why: 'Entered is not in force: only an answer at the new address proves it.',
    otherwise: [
      {
        saw: 'It still answers at {present}',
        likely: 'The setting was entered, not made effective.',
        check: 'Power off until it is dark, then on.',
      },
      {
        saw: 'Nothing answers at either',
        likely: 'The laptop is not in the new subnet, or it is still starting.',
        check: 'See where the laptop is; wait its start-up time once more.',
      },
    ],
  }),
] as const

export const nameplate = [
  record('before-power', 'code', 'Write down the order code on the label of {tag}.', { record: 'order-code' }),
  record('before-power', 'serial', 'Write down its serial number.', { record: 'serial-number' }),
] as const

/** What else the list of a search may show. @source common practice, no source */
export const missingNodes: NonNullable<RunStep['otherwise']> = [
  {
    saw: 'One is missing',
    likely: 'It has no power, or the bus ends before it.',
    check: 'Its lamps; the plug and terminator of the one before it.',
  },
  {
    saw: 'Fewer are listed than there are',
    likely: 'Two have one node and answer at once.',
    check: 'Switches of each, power off; then one by one.',
  },
  {
    saw: 'One more is listed',
    likely: 'A node that was left at its factory number, or one of another job.',
    check: 'Its serial number against the labels.',
  },
]
