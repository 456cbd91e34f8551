import fc from 'fast-check'
import ipaddr from 'ipaddr.js'
import { checkPlan, parseIpv4 } from '../address'
import { addressPlanOf, basisOf, handshakeTermsOf, type Device, type Job } from '../job'
import { sampleDevice, sampleEvidence, sampleHandshake, sampleJob, sampleNetwork, samplePort } from '../job/fixtures'
import { applyChanges, type Change } from '../changes'
import { proposeAddress } from './propose'
import { renumber, type RenumberAsk, type Renumbering } from './renumber'

const ask = (more: Partial<RenumberAsk> = {}): RenumberAsk => ({
  what: 'all',
  networkId: 'process',
  deviceIds: undefined,
  startAt: undefined,
  ...more,
})
const at = (text: string) => {
  const address = parseIpv4(text)
  if (!address.ok) throw new Error(text)
  return address.value
}
const said = (preview: readonly Renumbering[]) =>
  preview.map((each) => `${each.device.tag}: ${each.kind === 'moves' ? each.to : each.because}`)
const applied = (job: Job, preview: readonly Renumbering[]): Job =>
  applyChanges(
    job,
    preview.flatMap((each): Change[] =>
      each.kind === 'moves'
        ? [{ op: 'set', table: 'port', id: each.port.id, version: 1, fields: { address: each.to } }]
        : [],
    ),
  )
const drive = (tag: string, address: string | null, more: Partial<Device> = {}) =>
  sampleDevice(tag, address, { kind: 'drive', asFound: 'unknown', ...more })
const found = (job: Job) => checkPlan(addressPlanOf(job, [])).map((each) => `${each.rule} ${each.subject.id}`)

describe('addresses for many', () => {
  test('by the block of each kind, the job’s own before the usual one', () => {
    const job = sampleJob({
      devices: [drive('PD-1', null), drive('PD-2', null), sampleDevice('EM-1', null)],
      addressRules: [{ kind: 'drive', first: 120, last: 129 }],
    })
    expect(said(renumber(job, [], ask()))).toEqual(['PD-1: 10.20.40.120', 'PD-2: 10.20.40.121', 'EM-1: 10.20.40.50'])
  })

  test('only those without an address are given one, unless all are renumbered', () => {
    const job = sampleJob({ devices: [drive('PD-1', '10.20.40.77'), drive('PD-2', null)] })
    expect(said(renumber(job, [], ask({ what: 'missing' })))).toEqual(['PD-1: It has an address.', 'PD-2: 10.20.40.20'])
    expect(said(renumber(job, [], ask()))).toEqual(['PD-1: 10.20.40.20', 'PD-2: 10.20.40.21'])
  })

  test('what is proven at its address is left alone, and nobody gets that address', () => {
    const bare = sampleJob({
      devices: [
        sampleDevice('PLC', '10.20.40.10', { kind: 'controller' }),
        drive('PD-1', '10.20.40.20'),
        drive('PD-2', null),
      ],
    })
    const handshake = sampleHandshake('PLC', 'PD-1')
    const basis = basisOf(handshakeTermsOf(bare, handshake), handshake.points[0])
    const seen = sampleEvidence('device', 'PD-1', 'reached', { basis })
    const job = { ...bare, handshakes: [handshake], evidence: [seen] }
    expect(said(renumber(job, [], ask()))).toEqual([
      'PLC: It has that address already.',
      'PD-1: Proven at its address.',
      'PD-2: 10.20.40.21',
    ])
  })

  test('what waits for an answer stays out of the way', () => {
    const request = {
      id: 'r',
      about: 'range' as const,
      what: 'Addresses for drives',
      toWhom: '',
      deviceIds: ['PD-1'],
      askedOn: null,
      dueOn: null,
      answer: '',
      answeredOn: null,
      version: 1,
    }
    const job = sampleJob({ devices: [drive('PD-1', null), drive('PD-2', null)], requests: [request] })
    expect(said(renumber(job, [], ask()))).toEqual(['PD-1: It waits for: Addresses for drives.', 'PD-2: 10.20.40.20'])
  })

  test('in a row from one address, over what is taken', () => {
    const job = sampleJob({
      devices: ['A', 'B', 'C'].map((tag) => drive(tag, null)).concat(sampleDevice('X', '10.20.40.101')),
    })
    const chosen = new Set(['A', 'B', 'C'])
    expect(said(renumber(job, [], ask({ deviceIds: chosen, startAt: at('10.20.40.100') })))).toEqual([
      'A: 10.20.40.100',
      'B: 10.20.40.102',
      'C: 10.20.40.103',
    ])
  })

  test('one whose keypad sets only the last octet stays where it cannot be set, and keeps its address', () => {
    const keypad = { setting: 'keypad-last-octet', asFound: '192.168.1.20' } as const
    const job = sampleJob({ devices: [drive('PD-1', '10.20.40.20', keypad), drive('PD-2', null)] })
    expect(said(renumber(job, [], ask()))).toEqual([
      'PD-1: Keypad, last octet only: the first three octets stay as they are at 192.168.1.20.',
      'PD-2: 10.20.40.21',
    ])
  })

  test('when every address is taken, that is said', () => {
    const network = sampleNetwork({ cidr: '10.20.40.0/30', gateway: null, dhcp: '', reserved: '' })
    const job = sampleJob({ networks: [network], devices: [drive('A', null), drive('B', null), drive('C', null)] })
    expect(said(renumber(job, [], ask())).at(-1)).toBe('C: Every address of the network is taken.')
    const full = applied(job, renumber(job, [], ask()))
    expect(proposeAddress(full, 'process', 'drive', [])).toBeUndefined()
  })
})

describe('a proposal never creates a finding', () => {
  const octet = fc.integer({ min: 1, max: 254 })
  const device = fc.record({
    kind: fc.constantFrom('drive', 'meter', 'controller', 'remote-io', 'ups-card'),
    host: fc.option(octet, { nil: null }),
    second: fc.boolean(),
  })
  const blocks = fc.array(fc.record({ kind: fc.constantFrom('drive', 'meter'), first: octet, size: fc.nat(40) }), {
    maxLength: 2,
  })
  const jobs = fc
    .record({
      devices: fc.array(device, { maxLength: 30 }),
      blocks,
      prefix: fc.constantFrom(22, 24, 26, 28),
      dhcp: fc.constantFrom('', '10.20.40.150-10.20.40.199', '10.20.40.1-10.20.40.30'),
    })
    .map(({ devices, blocks: rules, prefix, dhcp }): Job => {
      const network = sampleNetwork({ cidr: `10.20.40.0/${prefix}`, dhcp, reserved: '', gateway: '10.20.40.1' })
      return sampleJob({
        networks: [network],
        addressRules: rules.map(({ kind, first, size }) => ({ kind, first, last: Math.min(255, first + size) })),
        devices: devices.map(({ kind, host, second }, k) =>
          sampleDevice(`D-${k}`, null, {
            kind,
            asFound: 'unknown',
            ports: [
              samplePort(host === null ? null : `10.20.40.${host}`, { id: `p-${k}` }),
              ...(second ? [samplePort(null, { id: `q-${k}`, name: 'Ethernet 2' })] : []),
            ],
          }),
        ),
      })
    })

  test.each(['missing', 'all'] as const)('%s', (what) => {
    fc.assert(
      fc.property(jobs, fc.option(octet), (job, start) => {
        const startAt = start === null ? undefined : at(`10.20.40.${start}`)
        const preview = renumber(job, [], ask({ what, startAt }))
        const before = new Set(found(job))
        const after = found(applied(job, preview))
        expect(after.filter((each) => !before.has(each))).toEqual([])
        const targets = preview.flatMap((each) => (each.kind === 'moves' ? [each.to] : []))
        expect(new Set(targets).size).toBe(targets.length)
        // The other opinion: ipaddr.js says which addresses are hosts of the network.
        const cidr = job.networks[0]?.cidr ?? ''
        for (const target of targets) {
          expect(ipaddr.parse(target).match(ipaddr.parseCIDR(cidr))).toBe(true)
          expect(target).not.toBe(ipaddr.IPv4.broadcastAddressFromCIDR(cidr).toString())
          expect(target).not.toBe(ipaddr.IPv4.networkAddressFromCIDR(cidr).toString())
        }
        expect(preview).toHaveLength(job.devices.reduce((sum, each) => sum + each.ports.length, 0))
      }),
      { numRuns: 150 },
    )
  })
})
