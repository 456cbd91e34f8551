import { sampleDevice, sampleHandshake, sampleJob } from '@calm/core/job/fixtures'
import type { Term } from '@calm/core/job'
import { termChange } from './useTermEdit'

const count: Term = {
  id: 't1',
  termId: 'count',
  end: 'device',
  text: '2',
  notation: null,
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
const change = (...args: Parameters<typeof termChange> extends [unknown, unknown, ...infer Rest] ? Rest : never) =>
  termChange(job, handshake, ...args)

describe('how a changed term is sent', () => {
  test('a stored term names the version that was looked at; a new one has version 0', () => {
    expect(change('count', 'device', next('4'))).toMatchObject({
      method: 'PUT',
      path: '/handshakes/h/terms/count/device',
      body: { text: '4', version: 4 },
    })
    expect(change('count', 'controller', next('4'))).toMatchObject({
      path: '/handshakes/h/terms/count/controller',
      body: { version: 0 },
    })
  })

  test('what it will make of the job is foreseen, with the next version', () => {
    const after = change('count', 'device', next('4'))?.foresee?.(job)
    expect(after?.handshakes[0]?.terms).toMatchObject([{ termId: 'count', text: '4', version: 5 }])
    expect(job.handshakes[0]?.terms).toEqual([count])
  })

  test.each([
    ['unit-id', 'device', '9', '/devices/FM', { unitId: 9, version: 7 }],
    ['unit-id', 'device', '', '/devices/FM', { unitId: null, version: 7 }],
    ['address', 'device', '10.20.40.41', '/ports/GW-port', { address: '10.20.40.41', version: 1 }],
    ['port', 'device', '503', '/ports/GW-port', { tcpPort: 503, version: 1 }],
    ['mask', 'device', '255.255.254.0', '/ports/GW-port', { prefix: 23, version: 1 }],
    ['mask', 'controller', '', '/ports/PLC-port', { prefix: null, version: 1 }],
  ] as const)(
    '%s of the %s end goes to the line-up: for a device behind a gateway, to the gateway',
    (id, end, text, path, body) => {
      expect(change(id, end, next(text))).toEqual({ method: 'PATCH', path, body })
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
