import { formatIpv4 } from '../address'
import { sampleDevice, sampleEvidence, sampleHandshake, sampleJob, sampleNetwork, samplePort } from './fixtures'
import { addressPlanOf } from './addressPlan'
import { basisOf, handshakeLadderOf } from './handshakeLadder'
import { handshakeTermsOf } from './handshakeTerms'
import { reachedAt } from './reachedAt'
import type { Device, Port } from './model'
import { proposeAddress } from '../lineUp'

const port = (address: string, more: Partial<Port> = {}) => samplePort(address, { gateway: null, ...more })
const device = (tag: string, more: Partial<Device> = {}) => sampleDevice(tag, null, { ports: [], ...more })
const handshake = sampleHandshake('PLC-101', 'FM-201', {
  terms: [
    {
      id: 't',
      termId: 'address',
      end: 'controller',
      text: '10.20.40.40',
      notation: null,
      places: [],
      origin: 'program',
      version: 1,
    },
  ],
})
const network = sampleNetwork({ gateway: null, dhcp: '', reserved: '' })
const job = sampleJob({
  networks: [network],
  devices: [
    device('PLC-101', { kind: 'controller', ports: [port('10.20.40.10')] }),
    device('GW-201', { kind: 'gateway', unitId: null, ports: [port('10.20.40.40')] }),
    device('FM-201', { kind: 'field-device', behindId: 'GW-201', unitId: 3 }),
  ],
  handshakes: [handshake],
})

describe('a job', () => {
  test('a device behind a gateway is reached at the gateway’s address, with its own unit', () => {
    const terms = handshakeTermsOf(job, handshake)
    expect(terms.address?.device).toEqual({ text: '10.20.40.40', origin: 'Line-up' })
    expect(terms['unit-id']?.device?.text).toBe('3')
    expect(terms.mask?.device?.text).toBe('255.255.255.0')
  })

  test('two devices that hang behind each other do not hang the program', () => {
    const round = { ...job, devices: [device('A', { behindId: 'B' }), device('B', { behindId: 'A' })] }
    expect(reachedAt(round, round.devices[0])).toBeUndefined()
  })

  test('evidence rests on the line-up too: moving the gateway makes it stale', () => {
    const basis = basisOf(handshakeTermsOf(job, handshake), handshake.points[0])
    const before = {
      ...job,
      handshakes: [handshake],
      evidence: [sampleEvidence('device', handshake.deviceId, 'reached', { basis })],
    }
    expect(handshakeLadderOf(before, handshake).rungs[2]?.state).toBe('proven')
    const moved = {
      ...before,
      devices: before.devices.map((each) => (each.tag === 'GW-201' ? { ...each, ports: [port('10.20.40.41')] } : each)),
    }
    expect(handshakeLadderOf(moved, handshake).rungs[2]?.state).toBe('in-hand')
    expect(addressPlanOf(before, []).ports.map((each) => each.proven)).toEqual([false, false])
  })

  test('a proposal comes from the block of the kind, else the first free one', () => {
    const proposed = (kind: Device['kind']) => {
      const made = proposeAddress(job, 'process', kind, [])
      return made && formatIpv4(made.address)
    }
    expect(proposed('controller')).toBe('10.20.40.11')
    expect(proposed('meter')).toBe('10.20.40.50')
    const narrow = { ...job, networks: [{ ...network, cidr: '10.20.40.8/30' }] }
    expect(formatIpv4(proposeAddress(narrow, 'process', 'meter', [])!.address)).toBe('10.20.40.9')
    expect(
      proposeAddress({ ...job, networks: [{ ...network, cidr: '10.20.40.10/32' }] }, 'process', 'meter', []),
    ).toBeUndefined()
    expect(proposeAddress(job, 'unknown', 'meter', [])).toBeUndefined()
  })
})
