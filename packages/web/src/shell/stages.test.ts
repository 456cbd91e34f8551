import { checkPlan } from '@calm/core/address'
import { addressPlanOf, basisOf, handshakeTermsOf, type Job } from '@calm/core/job'
import { instant } from '@calm/core/units'
import { sampleDevice, sampleHandshake, sampleJob } from '@calm/core/job/fixtures'
import { stagesOf } from './stages'

const stages = (job: Job) => stagesOf(job, checkPlan(addressPlanOf(job, [])))
const stage = (job: Job, path: string) => stages(job).find((each) => each.path === path)

describe('the walk', () => {
  test('has the stages that are built, in working order, each with the digit of its place', () => {
    expect(stages(sampleJob()).map((each) => [each.key, each.path])).toEqual([
      ['1', 'line-up'],
      ['3', 'terms'],
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
    const seen = {
      id: 'e',
      rung: 'reading' as const,
      verdict: 'proven' as const,
      who: 'R. Osei',
      at: instant(1),
      how: 'read-live' as const,
      value: '230 V',
      mode: 'bench' as const,
      detail: [],
      basis: basisOf(handshakeTermsOf(bare, handshake), handshake.points[0]),
    }
    const job = { ...bare, handshakes: [{ ...handshake, evidence: [seen] }] }
    expect(stage(job, 'proof')).toMatchObject({ done: 1, total: 1 })
    const moved = { ...job, devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('X', '10.20.40.51')] }
    expect(stage(moved, 'proof')).toMatchObject({ done: 0, total: 1 })
  })
})
