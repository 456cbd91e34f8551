import { checkPlan } from '@calm/core/address'
import { addressPlanOf, basisOf, handshakeTermsOf, type Job } from '@calm/core/job'
import { blankWalk } from '@calm/core/procedure'
import { sampleDevice, sampleEvidence, sampleHandshake, sampleJob } from '@calm/core/job/fixtures'
import { stagesOf } from './stages'

const stages = (job: Job) => stagesOf(job, checkPlan(addressPlanOf(job, [])))
const stage = (job: Job, path: string) => stages(job).find((each) => each.path === path)

describe('the walk', () => {
  test('has the stages that are built, in working order, each with the digit of its place', () => {
    expect(stages(sampleJob()).map((each) => [each.key, each.path])).toEqual([
      ['1', 'line-up'],
      ['2', 'first-contact'],
      ['3', 'terms'],
      ['4', 'data-path'],
      ['5', 'proof'],
      ['6', 'hand-over'],
    ])
  })

  test('counts devices without trouble, and says how many have some', () => {
    const job = sampleJob({
      devices: [sampleDevice('A', '10.20.40.60'), sampleDevice('B', '10.20.40.60'), sampleDevice('C', '10.20.40.61')],
    })
    expect(stage(job, 'line-up')).toMatchObject({ done: 1, total: 3, atOdds: 2 })
  })

  test('first contact counts who was verified where it is planned, what waits and what was not as expected', () => {
    const job = sampleJob({ devices: [sampleDevice('A', '10.20.40.60'), sampleDevice('B', '10.20.40.61')] })
    const [a, b] = job.devices
    const fact = { id: 'f', setting: 'address', standing: 'verified', how: 'read-live', who: 'R. Osei', at: 1 } as const
    const step = { id: 's', note: '', who: 'R. Osei', at: 1, wait: null, rests: null, version: 1 } as const
    const walk = {
      ...blankWalk,
      // B was verified before its plan changed: that counts no more.
      facts: [
        { ...fact, deviceId: a?.id ?? '', text: '10.20.40.60' },
        { ...fact, deviceId: b?.id ?? '', text: '10.20.40.99' },
      ],
      steps: [
        { ...step, stepKey: 'one', state: 'waiting' as const },
        { ...step, stepKey: 'two', state: 'unexpected' as const },
      ],
    }
    const [, firstContact] = stagesOf(job, [], walk)
    expect(firstContact).toMatchObject({ done: 1, total: 2, waiting: 1, atOdds: 1 })
  })

  test('a finding that is only worth knowing does not count against the line-up', () => {
    const job = sampleJob({ devices: [sampleDevice('A', '10.20.40.5')] })
    expect(stage(job, 'line-up')).toMatchObject({ done: 1, atOdds: 0 })
  })

  test('counts readings that are proven, and stops counting when they go stale', () => {
    const bare = sampleJob({
      devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('X', '10.20.40.50')],
      handshakes: [sampleHandshake('PLC', 'X')],
    })
    const [handshake] = bare.handshakes
    if (!handshake) throw new Error('no handshake')
    const basis = basisOf(handshakeTermsOf(bare, handshake), handshake.points[0])
    const job = { ...bare, evidence: [sampleEvidence('point', handshake.points[0]?.id ?? '', 'reading', { basis })] }
    expect(stage(job, 'proof')).toMatchObject({ done: 1, total: 1 })
    const moved = { ...job, devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('X', '10.20.40.51')] }
    expect(stage(moved, 'proof')).toMatchObject({ done: 0, total: 1 })
  })
})
