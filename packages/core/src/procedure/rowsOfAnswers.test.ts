import { applyChanges } from '../changes'
import { sampleDevice, sampleJob } from '../job/fixtures'
import type { LaptopAdapter } from './nothingAnswers'
import { devicesOfAnswers, nearSubnets } from './rowsOfAnswers'
import type { SweepAnswer, SweepLine } from './sweep'

const adapter = (address: string, prefix: number, more: Partial<LaptopAdapter> = {}): LaptopAdapter => ({
  name: 'eth0',
  address,
  prefix,
  link: true,
  wireless: false,
  loopback: false,
  ...more,
})
const near = (...interfaces: readonly LaptopAdapter[]) =>
  nearSubnets({ interfaces, neighbours: null, notes: [] }).map(({ adapter: name, cidr, hosts }) => [name, cidr, hosts])

describe('where this laptop is plugged in', () => {
  test('each subnet once, the smallest first; no loopback, nothing without a link', () => {
    expect(
      near(
        adapter('127.0.0.1', 8, { name: 'lo', loopback: true }),
        adapter('10.20.0.7', 16),
        adapter('10.20.40.5', 24, { name: 'eth1' }),
        adapter('10.20.40.6', 24, { name: 'eth2' }),
        adapter('192.168.7.2', 24, { link: false }),
        adapter('192.168.8.2', 30, { name: 'eth3', link: null }),
      ),
    ).toEqual([
      ['eth3', '192.168.8.0/30', 2],
      ['eth1', '10.20.40.0/24', 254],
      ['eth0', '10.20.0.0/16', 65_534],
    ])
    expect(near()).toEqual([])
  })
})

describe('rows of what answered', () => {
  const line = (address: string, more: Partial<SweepAnswer> = {}, verdict: SweepLine['verdict'] = 'unknown') => ({
    address,
    verdict,
    tags: [],
    answer: { address, ports: [502], identities: [], hardwareAddress: null, ...more },
  })
  const job = sampleJob({ devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('At 10.20.40.12', null)] })
  const added = (...lines: readonly SweepLine[]) => {
    let id = 0
    const changes = devicesOfAnswers(job, lines, () => `new-${(id += 1)}`)
    const applied = applyChanges(job, changes)
    return applied.devices.slice(job.devices.length)
  }

  test('one device with its port for each that nobody planned, in the network that holds it', () => {
    const [meter, web] = added(
      line('10.20.40.11', { identities: ['Sample, EM-3F'], hardwareAddress: '02-00-00-00-00-11' }),
      line('172.16.0.9', { ports: [80] }),
    )
    expect(meter).toMatchObject({
      tag: 'At 10.20.40.11',
      what: 'Sample, EM-3F',
      ports: [
        {
          address: '10.20.40.11',
          networkId: 'process',
          gateway: '10.20.40.1',
          tcpPort: 502,
          mac: '02-00-00-00-00-11',
        },
      ],
    })
    expect(web).toMatchObject({ ports: [{ address: '172.16.0.9', networkId: null, gateway: null, tcpPort: 80 }] })
    expect(meter?.position).toBeLessThan(web?.position ?? 0)
  })

  test('nobody who is planned, silent, twice or in the line-up already; a tag that is taken gets a number', () => {
    const silent: SweepLine = { ...line('10.20.40.20'), answer: null }
    expect(
      added(
        line('10.20.40.10'),
        line('10.20.40.13', {}, 'expected'),
        line('10.20.40.14', {}, 'twice'),
        silent,
        line('10.20.40.12'),
      ).map((device) => device.tag),
    ).toEqual(['At 10.20.40.12 (2)'])
  })

  test('what a device says of itself is cut to what the field holds', () => {
    expect(added(line('10.20.40.11', { identities: ['x'.repeat(400)] }))[0]?.what).toHaveLength(120)
  })
})
