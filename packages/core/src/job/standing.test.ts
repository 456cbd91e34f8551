import { sampleDevice, sampleHandshake, sampleJob, sampleLine, sampleNetwork, sampleTerms } from './fixtures'
import type { Job } from './model'
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

/** On one line: what one says of its end counts for the others. */
test('an edit at one handshake is seen at its mates on the line, and leaves the rest as it was', () => {
  const unit = (tag: string, node: number) =>
    sampleDevice(tag, `10.20.40.${60 + node}`, {
      nodes: [{ id: `n${tag}`, lineId: 'L', node, name: '', isMaster: false, version: 1 }],
    })
  const on = (tag: string, text: string) =>
    sampleHandshake('PLC', tag, {
      id: tag,
      terms: sampleTerms('termination', text).map((term) => ({ ...term, id: `${tag}${term.id}` })),
    })
  const line = sampleJob({
    lines: [sampleLine({ id: 'L' })],
    devices: [sampleDevice('PLC', '10.20.40.10'), unit('A', 1), unit('B', 2), sampleDevice('C', '10.20.40.70')],
    handshakes: [on('A', 'end-on'), on('B', 'between-off'), sampleHandshake('PLC', 'C', { id: 'C' })],
  })
  const stateOf = (of: Job, id: string) => {
    const each = of.handshakes.find((handshake) => handshake.id === id)
    return each && claspFor(of, each).rows.find((row) => row.id === 'termination')?.remark
  }
  const [a, b, c] = line.handshakes
  if (!a || !b || !c) throw new Error('handshakes')
  expect(stateOf(line, 'A')).toMatch(/^Both ends terminated: PLC and A/)
  const before = claspFor(line, c)
  const more = { ...b, terms: b.terms.map((term) => ({ ...term, text: 'end-on' })) }
  const now = { ...line, handshakes: [a, more, c] }
  expect(stateOf(now, 'A')).toMatch(/3 terminators are on/)
  expect(claspFor(now, c)).toBe(before)
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
