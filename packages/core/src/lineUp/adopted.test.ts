import { sampleDevice, sampleJob, sampleNetwork, samplePort } from '../job/fixtures'
import { adoptedBy } from './adopted'

const loose = (id: string, address: string | null, more = {}) =>
  sampleDevice(id, null, { ports: [samplePort(address, { id: `p${id}`, networkId: null, gateway: null, ...more })] })
const job = sampleJob({
  networks: [],
  devices: [
    loose('A', '10.20.40.21'),
    loose('B', '10.20.40.22', { gateway: '10.20.40.254' }),
    loose('NET', '10.20.40.0'),
    loose('FAR', '10.20.41.21'),
    loose('NONE', null),
    loose('SAID', '10.20.40.23', { networkId: 'other' }),
  ],
})

test('a network takes in ports that lie in it as a host and say none, with its gateway where they have none', () => {
  const network = sampleNetwork({ id: 'n9', cidr: '10.20.40.0/24', gateway: '10.20.40.1' })
  const { changes, deviceCount } = adoptedBy(job, network)
  expect(deviceCount).toBe(2)
  expect(changes).toEqual([
    { op: 'set', table: 'port', id: 'pA', version: 1, fields: { networkId: 'n9', gateway: '10.20.40.1' } },
    { op: 'set', table: 'port', id: 'pB', version: 1, fields: { networkId: 'n9' } },
  ])
})

test('a block that cannot be read, or holds nobody, takes in nobody', () => {
  expect(adoptedBy(job, sampleNetwork({ cidr: '10.20.40' })).changes).toEqual([])
  expect(adoptedBy(job, sampleNetwork({ cidr: '10.99.0.0/24' })).changes).toEqual([])
})
