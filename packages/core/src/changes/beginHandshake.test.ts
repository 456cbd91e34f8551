import { claspFor } from '../job'
import { sampleDevice, sampleJob } from '../job/fixtures'
import { applyChanges } from './apply'
import { beginHandshakeChanges } from './beginHandshake'

const begun = (...devices: ReturnType<typeof sampleDevice>[]) => {
  const job = sampleJob({ devices: [sampleDevice('PLC', '10.20.40.10', { kind: 'controller' }), ...devices] })
  let id = 0
  const { changes, ...told } = beginHandshakeChanges(job, { controllerId: 'PLC', deviceId: 'EM' }, () => `${(id += 1)}`)
  const after = applyChanges(job, changes)
  return { told, after, handshake: after.handshakes[0]! }
}

describe('a handshake that is begun', () => {
  test('knows at both ends what the line-up knows, and has one point', () => {
    const { told, after, handshake } = begun(sampleDevice('EM', '10.20.40.50', { unitId: 7 }))
    expect(told).toEqual({ id: '1', name: 'PLC to EM' })
    expect(handshake.points).toHaveLength(1)
    const equal = claspFor(after, handshake).rows.filter(({ state }) => state === 'equal')
    expect(equal.map(({ id }) => id)).toEqual(['address', 'mask', 'port', 'unit-id'])
    expect(handshake.terms.map(({ termId, end, text }) => [termId, end, text])).toEqual([
      ['address', 'controller', '10.20.40.50'],
      ['port', 'controller', '502'],
      ['unit-id', 'controller', '7'],
    ])
  })

  test('says nothing of what nobody planned', () => {
    const { handshake } = begun(sampleDevice('EM', null, { unitId: null }))
    expect(handshake.terms.map(({ termId }) => termId)).toEqual(['port'])
  })

  test('stands behind a gateway at the address of the gateway', () => {
    const gateway = sampleDevice('GW', '10.20.40.60', { kind: 'gateway' })
    const { handshake } = begun(gateway, sampleDevice('EM', null, { ports: [], behindId: 'GW', unitId: 3 }))
    expect(handshake.terms.map(({ termId, text }) => [termId, text])).toEqual([
      ['address', '10.20.40.60'],
      ['port', '502'],
      ['unit-id', '3'],
    ])
  })

  test('comes after those that are there', () => {
    const first = begun(sampleDevice('EM', '10.20.40.50'))
    let id = 0
    const { changes } = beginHandshakeChanges(
      first.after,
      { controllerId: 'PLC', deviceId: 'EM' },
      () => `b${(id += 1)}`,
    )
    const [one, two] = applyChanges(first.after, changes).handshakes
    expect([one?.position, two?.position]).toEqual([1, 2])
  })
})
