import { applyChanges } from '@calm/core/changes'
import { sampleDevice, sampleHandshake, sampleJob } from '@calm/core/job/fixtures'
import type { Term } from '@calm/core/job'
import type { End, TermId } from '@calm/core/terms'
import { termChange } from './useTermEdit'

const count: Term = {
  id: 't1',
  termId: 'count',
  end: 'device',
  text: '2',
  notation: null,
  places: [],
  origin: 'manual',
  version: 4,
}
const handshake = sampleHandshake('PLC', 'FM', { id: 'h', terms: [count] })
const job = sampleJob({
  devices: [
    sampleDevice('PLC', '10.20.40.10'),
    sampleDevice('GW', '10.20.40.40'),
    sampleDevice('FM', null, { behindId: 'GW', ports: [], unitId: 3, version: 7 }),
  ],
  handshakes: [handshake],
})
const next = (text: string) => ({ text, notation: null, origin: 'typed' })
const change = (id: TermId, end: End, text: string) => termChange(job, handshake, id, end, next(text), () => 'new')

describe('how a changed term is sent', () => {
  test('a stored term names the version that was looked at; a new one names its handshake', () => {
    expect(change('count', 'device', '4')).toEqual({
      op: 'set',
      table: 'term',
      id: 't1',
      version: 4,
      fields: { text: '4', notation: null, origin: 'typed' },
    })
    expect(change('count', 'controller', '4')).toMatchObject({
      op: 'add',
      id: 'new',
      fields: { termId: 'count', end: 'controller', text: '4', handshakeId: 'h' },
    })
  })

  test('what it makes of the job is what the server makes of it', () => {
    const made = change('count', 'device', '4')
    const after = applyChanges(job, made ? [made] : [])
    expect(after.handshakes[0]?.terms).toMatchObject([{ termId: 'count', text: '4', version: 5 }])
    expect(job.handshakes[0]?.terms).toEqual([count])
  })

  test.each([
    ['unit-id', 'device', '9', 'device', 'FM', 7, { unitId: 9 }],
    ['unit-id', 'device', '', 'device', 'FM', 7, { unitId: null }],
    ['address', 'device', '10.20.40.41', 'port', 'GW-port', 1, { address: '10.20.40.41' }],
    ['port', 'device', '503', 'port', 'GW-port', 1, { tcpPort: 503 }],
    ['mask', 'device', '255.255.254.0', 'port', 'GW-port', 1, { prefix: 23 }],
    ['mask', 'controller', '', 'port', 'PLC-port', 1, { prefix: null }],
  ] as const)(
    '%s of the %s end goes to the line-up: for a device behind a gateway, to the gateway',
    (termId, end, text, table, id, version, fields) => {
      expect(change(termId, end, text)).toEqual({ op: 'set', table, id, version, fields })
    },
  )

  test('an end without a port has nothing to change', () => {
    const bare = sampleJob({
      devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('FM', null, { ports: [] })],
      handshakes: [handshake],
    })
    expect(termChange(bare, handshake, 'address', 'device', next('10.20.40.5'))).toBeUndefined()
  })
})
