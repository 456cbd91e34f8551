import { deviceBatch } from '@calm/contract'
import { matchColumns, readDeviceRows } from '@calm/core/job'
import { sampleJob, sampleNetwork } from '@calm/core/job/fixtures'
import { batchOf } from './deviceBatch'

const NETWORK = '6f1c2b1e-8f5e-4b8e-9f5b-000000000001'
const job = sampleJob({ networks: [sampleNetwork({ id: NETWORK })] })
const batch = (table: readonly (readonly string[])[], networkId = NETWORK) => {
  const { match, hasHead } = matchColumns(table)
  return batchOf(readDeviceRows(table, match, hasHead, new Set()), job, networkId)
}

describe('pasted rows as they travel', () => {
  test('a device gets its port in the chosen network, with that network’s gateway', () => {
    const [device] = batch([
      ['Tag', 'IP'],
      ['EM-1', '10.20.40.60'],
    ]).devices
    expect(device).toMatchObject({
      tag: 'EM-1',
      behindTag: null,
      port: { address: '10.20.40.60', networkId: NETWORK, gateway: '10.20.40.1', tcpPort: 502 },
    })
  })

  test('one behind a gateway has no port of its own, unless it brings an address', () => {
    const [gw, bare, own] = batch([
      ['Tag', 'Via', 'IP'],
      ['GW', '', '10.20.40.40'],
      ['FM-1', 'GW', ''],
      ['FM-2', 'GW', '10.20.40.99'],
    ]).devices
    expect(gw?.port).not.toBeNull()
    expect(bare?.port).toBeNull()
    expect(own?.port).toMatchObject({ address: '10.20.40.99' })
  })

  test('without a network the port is planned for none', () => {
    expect(
      batch(
        [
          ['Tag', 'IP'],
          ['EM-1', '10.20.40.60'],
        ],
        '',
      ).devices[0]?.port,
    ).toMatchObject({ networkId: null, gateway: null })
  })

  test('rows that could not be read are not sent', () => {
    expect(
      batch([
        ['Tag', 'IP'],
        ['EM-1', '10.20.40.256'],
        ['EM-2', '10.20.40.61'],
      ]).devices.map((each) => each.tag),
    ).toEqual(['EM-2'])
  })
})

describe('what the server takes as a table', () => {
  const sent = (devices: readonly object[]) =>
    deviceBatch
      .validate({ devices }, { abortEarly: false, convert: false })
      .error?.details.map((each) => each.path.join('.')) ?? []
  const line = (tag: string) =>
    batch([
      ['Tag', 'IP'],
      [tag, '10.20.40.60'],
    ]).devices[0] as object

  test('what the page sends', () => expect(sent([line('A'), line('B')])).toEqual([]))
  test('no row at all, a tag twice, a field too many', () => {
    expect(sent([])).toEqual(['devices'])
    expect(sent([line('A'), line('A')])).toEqual(['devices.1'])
    expect(sent([{ ...line('A'), colour: 1 }])).toEqual(['devices.0.colour'])
  })
  test('5 000 rows, not one more', () => {
    const many = Array.from({ length: 5001 }, (_, k) => line(`T-${k}`))
    expect(sent(many.slice(0, 5000))).toEqual([])
    expect(sent(many)).toEqual(['devices'])
  })
})
