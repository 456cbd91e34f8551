import type { Job } from '@calm/core/job'
import { instant } from '@calm/core/units'
import { withDecision, withEvidence, type Seen } from './build'

export const WHO = 'R. Osei'

const proven = (rung: Seen['rung'], minutesAgo: number, how: Seen['how'], value: string): Seen => ({
  rung,
  verdict: 'proven',
  minutesAgo,
  how,
  value,
})
const odds = (rung: Seen['rung'], minutesAgo: number, how: Seen['how'], value: string): Seen => ({
  rung,
  verdict: 'at-odds',
  minutesAgo,
  how,
  value,
})

const start = (lamps: string): readonly Seen[] => [
  proven('safe', 190, 'seen', 'Cautions read; lock and tag on Q4, nothing can turn.'),
  proven('powered', 170, 'seen', lamps),
]
/** Over TCP there are ten terms; on a serial line its settings are one more. */
const agreed = (minutesAgo: number, terms = 10): Seen =>
  proven('agreed', minutesAgo, 'seen', `All ${terms} terms agree and are in force at both ends.`)
const reached = (at: string): Seen => proven('reached', 150, 'read-live', `Answered at ${at}.`)

/** What was seen so far, as if it had been recorded this morning. */
export function withHistory(job: Job, now: number): Job {
  const history: Readonly<Record<string, readonly Seen[]>> = {
    'EM-501': start('PWR lamp steady, COMM lamp flashing in turn.'),
    'PD-101': [
      ...start('Display shows ready.'),
      reached('10.20.40.21:502, unit 1'),
      agreed(120),
      proven(
        'reading',
        95,
        'typed',
        'Speed: PD-101 20.0 %, PLC-101 20.0 %, Pump house screen 20.0 %; reference 20.0 %.',
      ),
      proven('writing', 80, 'seen', 'Setpoint 20.0 % reached the drive and was read back.'),
    ],
    'PD-102': start('Display shows ready.'),
    'RIO-111': [proven('safe', 60, 'seen', 'Cautions read; field supply off.')],
    'FM-201': [
      ...start('Display lit, flow shown.'),
      reached('10.20.40.40:502, unit 1'),
      odds(
        'reading',
        66,
        'typed',
        'Flow, intake: FM-201 42.37 m³/h, PLC-101 5.82 × 10^35; reference 42.4. The words arrive whole. PLC-101 takes them as high word first.',
      ),
    ],
    'FM-202': [
      ...start('Display lit, flow shown.'),
      reached('10.20.40.40:502, unit 2'),
      agreed(70, 11),
      proven(
        'reading',
        62,
        'typed',
        'Flow, raceway A: FM-202 18.10 m³/h, PLC-101 18.10 m³/h, Pump house screen 18.1; reference 18.1.',
      ),
    ],
    'FM-203': [
      ...start('Display lit, flow shown.'),
      odds(
        'reached',
        58,
        'read-live',
        'Not reached: GW-201 answers exception 11; the menu of FM-203 shows even parity, the line runs without.',
      ),
    ],
    'INV-301': start('Status lamp steady.'),
  }
  const seen = Object.entries(history).reduce((so, [tag, list]) => withEvidence(so, tag, WHO, now, list), job)
  const waiting = withDecision(seen, 'PD-102', {
    rung: 'reached',
    state: 'waiting',
    reason: 'Restarting with its new address.',
    who: WHO,
    at: instant(now - 60_000),
  })
  return withDecision(waiting, 'INV-301', {
    rung: 'reached',
    state: 'parked',
    reason: 'Waits for its address: UPS-401 is headed for the same one.',
    who: WHO,
    at: instant(now - 40 * 60_000),
  })
}
