import { sampleDevice, sampleJob, sampleNetwork, samplePort } from '../job/fixtures'
import { reservationFormats, reservationsOf } from './reservations'

const port = (address: string | null, mac: string | null) => [samplePort(address, { id: `p${address}`, mac })]
const job = sampleJob({
  networks: [sampleNetwork({ school: 'dhcp-reservation', vlan: 40 })],
  devices: [
    sampleDevice('SUP 801', null, { ports: port('10.20.40.200', '02:5E:0B:80:01:2C'), hostName: 'sup-801' }),
    sampleDevice('UPS_402', null, { ports: port('10.20.40.71', '02:5E:0B:80:01:2D') }),
    sampleDevice('A', null, { ports: port('10.20.40.72', null) }),
    sampleDevice('B', null, { ports: port(null, '02:5E:0B:80:01:2E') }),
    sampleDevice('C', null, {
      ports: [samplePort('10.20.40.73', { id: 'static', school: 'static', mac: '02:5E:0B:80:01:2F' })],
    }),
  ],
})
const { ready, lacking } = reservationsOf(job)
const written = (id: keyof typeof reservationFormats) => reservationFormats[id].write(ready)

test('only ports whose address lives in the server, with what the others lack', () => {
  expect(ready.map((each) => [each.tag, each.hostName])).toEqual([
    ['SUP 801', 'sup-801'],
    ['UPS_402', 'ups-402'],
  ])
  expect(lacking).toEqual([
    { tag: 'A', what: 'no hardware address' },
    { tag: 'B', what: 'no planned address' },
  ])
})

// dhcpd.conf(5): host NAME { hardware ethernet MAC; fixed-address IP; } (from memory)
test('as host statements', () =>
  expect(written('dhcpd')).toContain(
    'host sup-801 {\n  hardware ethernet 02:5e:0b:80:01:2c;\n  fixed-address 10.20.40.200;\n}\n',
  ))

// dnsmasq(8): --dhcp-host=HWADDR,IPADDR,HOSTNAME (from memory)
test('as dhcp-host lines', () =>
  expect(written('dnsmasq')).toContain('dhcp-host=02:5e:0b:80:01:2d,10.20.40.71,ups-402\n'))

// Kea: Dhcp4.subnet4[].reservations[] with hw-address, ip-address, hostname (from memory)
test('as JSON with the subnets', () =>
  expect(JSON.parse(written('kea')).Dhcp4.subnet4).toEqual([
    {
      id: 40,
      subnet: '10.20.40.0/24',
      'option-data': [{ name: 'routers', data: '10.20.40.1' }],
      reservations: [
        { 'hw-address': '02:5e:0b:80:01:2c', 'ip-address': '10.20.40.200', hostname: 'sup-801' },
        { 'hw-address': '02:5e:0b:80:01:2d', 'ip-address': '10.20.40.71', hostname: 'ups-402' },
      ],
    },
  ]))

test('as CSV by RFC 4180', () => {
  const lines = written('csv').split('\r\n')
  expect(lines).toHaveLength(4)
  expect(lines[1]).toBe('SUP 801,sup-801,02:5E:0B:80:01:2C,10.20.40.200,10.20.40.0/24')
})
