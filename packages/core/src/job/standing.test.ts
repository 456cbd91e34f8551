import { sampleDevice, sampleHandshake, sampleJob, sampleNetwork } from './fixtures'
import { handshakeLadderOf } from './handshakeLadder'
import { claspFor, ladderFor } from './standing'

const handshake = sampleHandshake('PLC', 'FM')
const job = sampleJob({
  devices: [
    sampleDevice('PLC', '10.20.40.10'),
    sampleDevice('GW', '10.20.40.40'),
    sampleDevice('FM', null, { behindId: 'GW', ports: [] }),
    sampleDevice('X', '10.20.40.50'),
  ],
  handshakes: [handshake],
})
const withDevice = (tag: string, address: string) => ({
  ...job,
  devices: job.devices.map((each) =>
    each.tag === tag ? sampleDevice(tag, address, { behindId: each.behindId }) : each,
  ),
})

describe('what is remembered of a handshake', () => {
  test('is what core computes', () => expect(ladderFor(job, handshake)).toEqual(handshakeLadderOf(job, handshake)))

  test('stays while nothing it rests on changed', () => {
    expect(claspFor(withDevice('X', '10.20.40.51'), handshake)).toBe(claspFor(job, handshake))
  })

  test('is computed again when an end, the gateway between, or a network changed', () => {
    const before = claspFor(job, handshake)
    const address = (made: typeof before) => made.rows.find((row) => row.id === 'address')?.ends.device
    expect(address(claspFor(withDevice('GW', '10.20.40.41'), handshake))).toMatchObject({ shown: '10.20.40.41' })
    expect(claspFor(withDevice('PLC', '10.20.40.11'), handshake)).not.toBe(before)
    const masked = claspFor({ ...job, networks: [sampleNetwork({ cidr: '10.20.0.0/16' })] }, handshake)
    expect(masked.rows.find((row) => row.id === 'mask')?.ends.device).toMatchObject({ shown: '255.255.0.0' })
  })

  test('two devices behind each other do not hang it', () => {
    const round = sampleJob({
      devices: [
        sampleDevice('A', null, { behindId: 'B', ports: [] }),
        sampleDevice('B', null, { behindId: 'A', ports: [] }),
      ],
    })
    expect(claspFor(round, sampleHandshake('A', 'B')).total).toBeGreaterThan(0)
  })
})
