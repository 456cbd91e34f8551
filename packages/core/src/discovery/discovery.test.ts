import { ipv4 } from '../address'
import { sampleDevice, sampleJob } from '../job/fixtures'
import type { Device } from '../job'
import { blankWalk, type LaptopState, type WalkRecord } from '../procedure'
import {
  ASK_EVERY_SECONDS,
  addressText,
  hitsOf,
  identityWords,
  isListIdentityRequest,
  judgeHit,
  leaseDiscover,
  listIdentityReply,
  listIdentityRequest,
  namesOf,
  readLeaseRequest,
  readListIdentityReply,
  serialText,
  takenInto,
  type Hit,
  type NameRecord,
  type Sighting,
} from '.'

const bytes = (hex: string) => Uint8Array.from(hex.match(/[0-9a-f]{2}/gi) ?? [], (pair) => Number.parseInt(pair, 16))
/** What a question is known by, and before it the longest delay of an answer: 1 000 ms, low byte first. */
const context = bytes('03 04 05 06 07 08')
const whole = bytes('e8 03 03 04 05 06 07 08')

/**
 * An answer written out byte by byte, after the layout of IEC 61158 type 2, encapsulation, list identity; from memory:
 * header of 24 bytes low byte first, one item 0C hex, the socket address in it high byte first. Question, answer and the
 * request for a lease below were read by the dissectors of tshark 4.0.17 as well, by hand: every field as named here, the
 * first two bytes of context in the question as "max response delay".
 */
const answer = bytes(
  [
    '63 00 32 00 00 00 00 00 00 00 00 00 e8 03 03 04 05 06 07 08 00 00 00 00',
    '01 00',
    '0c 00 2c 00',
    '01 00',
    '00 02 af 12 c0 a8 42 1e 00 00 00 00 00 00 00 00',
    '0f 27 0c 00 41 00 02 03 30 00 44 33 22 11',
    '0a 52 48 2d 38 44 32 41 34 51 2d',
    '03',
  ].join(' '),
)

describe('who are you, asked of everybody', () => {
  test('the question is a header of 24 bytes, with a context of its own', () => {
    expect([...listIdentityRequest(context)]).toEqual([
      ...bytes('63 00 00 00 00 00 00 00 00 00 00 00 e8 03 03 04 05 06 07 08 00 00 00 00'),
    ])
    expect(isListIdentityRequest(listIdentityRequest(context))).toBe(true)
    expect(isListIdentityRequest(answer)).toBe(false)
  })

  test('whether the delay comes back in an answer does not matter', () => {
    const without = Uint8Array.from(answer, (byte, n) => (n === 12 || n === 13 ? 0 : byte))
    expect(readListIdentityReply(without, context).ok).toBe(true)
  })

  test('no answer may come later than the next question', () => {
    // Nobody waits: a delay of chance bytes would be half a minute and more on the whole.
    const delay = new DataView(listIdentityRequest(bytes('ff ff ff ff ff ff')).buffer).getUint16(12, true)
    expect(delay).toBeLessThan(ASK_EVERY_SECONDS * 1_000)
    expect(delay).toBeGreaterThan(0)
  })

  test('an answer is read as it is laid down', () => {
    const read = readListIdentityReply(answer, context)
    expect(read).toEqual({
      ok: true,
      identity: {
        address: ipv4('192.168.66.30'),
        port: 44_818,
        vendor: 9_999,
        deviceType: 12,
        productCode: 65,
        revision: { major: 2, minor: 3 },
        status: 48,
        serialNumber: 0x11223344,
        productName: 'RH-8D2A4Q-',
        state: 3,
      },
    })
    if (!read.ok) throw new Error(read.why)
    expect(addressText(read.identity)).toBe('192.168.66.30')
    expect(identityWords(read.identity)).toBe('RH-8D2A4Q-, 2.3, serial number 11223344')
    expect(serialText({ serialNumber: 0xff })).toBe('000000FF')
    expect([...listIdentityReply(read.identity, whole)]).toEqual([...answer])
  })

  test.each<[string, Uint8Array, RegExp]>([
    ['nothing', new Uint8Array(), /0 bytes; a header has 24/],
    ['cut short', answer.slice(0, 40), /length 50; 16 bytes follow/],
    ['another command', Uint8Array.from([0x64, ...answer.slice(1)]), /command 100; asked was 99/],
    ['a refusal', Uint8Array.from(answer, (byte, n) => (n === 8 ? 1 : byte)), /status 1/],
    ['an answer to another question', Uint8Array.from(answer, (byte, n) => (n === 14 ? 9 : byte)), /another question/],
    [
      'an item longer than what follows',
      Uint8Array.from(answer, (byte, n) => (n === 28 ? 99 : byte)),
      /item 1 has 99 bytes/,
    ],
    [
      'a name longer than its item',
      Uint8Array.from(answer, (byte, n) => (n === 62 ? 60 : byte)),
      /its name does not fit/,
    ],
    [
      'more items than there are, none of them this',
      Uint8Array.from(answer, (byte, n) => (n === 26 ? 9 : n === 24 ? 2 : byte)),
      /item 2 of 2 is missing/,
    ],
    [
      'an item of another kind',
      Uint8Array.from(answer, (byte, n) => (n === 26 ? 9 : byte)),
      /no identity among its items/,
    ],
  ])('%s is refused, and nobody is shown for it', (_words, wrong, why) => {
    const read = readListIdentityReply(wrong, context)
    expect(read).toMatchObject({ ok: false, why: expect.stringMatching(why) })
  })

  test('no cut of an answer is read as one', () => {
    for (let length = 0; length < answer.length; length += 1)
      expect(readListIdentityReply(answer.slice(0, length), context).ok).toBe(false)
  })
})

describe('who asks for an address', () => {
  /** Laid down by hand after RFC 2131 section 2 and RFC 2132: a discover with a host name and a wish. */
  const asked = Uint8Array.from({ length: 300 }, (_, n) => {
    const head: Readonly<Record<number, number>> = {
      0: 1,
      1: 1,
      2: 6,
      28: 0x02,
      29: 0x5e,
      30: 0x0b,
      31: 0x10,
      32: 0x80,
      33: 0x01,
    }
    const options = bytes('63 82 53 63 35 01 01 0c 05 73 75 70 2d 38 00 32 04 0a 14 29 c8 ff')
    return options[n - 236] ?? head[n] ?? 0
  })

  test('its hardware address, name and wish are read', () => {
    expect(readLeaseRequest(asked)).toEqual({
      ok: true,
      request: {
        hardwareAddress: '02:5E:0B:10:80:01',
        kind: 'discover',
        address: '10.20.41.200',
        hostName: 'sup-8',
        vendorClass: '',
      },
    })
  })

  test('a request of ours is read as it was meant', () => {
    expect(readLeaseRequest(leaseDiscover('02:5E:0B:10:80:01', 'sup', 7))).toMatchObject({
      ok: true,
      request: { hardwareAddress: '02:5E:0B:10:80:01', kind: 'discover', address: '', hostName: 'sup' },
    })
  })

  test.each<[string, Uint8Array, RegExp]>([
    ['too short', asked.slice(0, 100), /100 bytes; at least 240/],
    ['an answer of a server', Uint8Array.from([2, ...asked.slice(1)]), /not a request/],
    ['another kind of network', Uint8Array.from(asked, (byte, n) => (n === 1 ? 6 : byte)), /of another kind/],
    ['without its cookie', Uint8Array.from(asked, (byte, n) => (n === 236 ? 0 : byte)), /cookie/],
    ['an option cut short', asked.slice(0, 247), /option 12 is cut short/],
    [
      'all zeros for a hardware address',
      Uint8Array.from(asked, (byte, n) => (n >= 28 && n < 34 ? 0 : byte)),
      /All zeros/,
    ],
  ])('%s is refused', (_words, wrong, why) => {
    expect(readLeaseRequest(wrong)).toMatchObject({ ok: false, why: expect.stringMatching(why) })
  })
})

describe('names', () => {
  const records: readonly NameRecord[] = [
    { type: 'PTR', name: '_http._tcp.local', data: 'SS-1R._http._tcp.local' },
    { type: 'SRV', name: 'SS-1R._http._tcp.local', data: { target: 'ss-1r-7001.local', port: 80 } },
    { type: 'TXT', name: 'SS-1R._http._tcp.local', data: [new TextEncoder().encode('serial=S4 7001'), 'model=SS-1R'] },
    { type: 'A', name: 'SS-1R-7001.local', data: '192.168.66.80' },
  ]
  test('an address with its host, its services and what it says of them', () => {
    expect(namesOf(records)).toEqual([
      {
        address: '192.168.66.80',
        hostName: 'SS-1R-7001',
        services: ['SS-1R'],
        texts: ['serial=S4 7001', 'model=SS-1R'],
      },
    ])
  })
  test('without an address it is nobody; an address that is none is none', () => {
    expect(namesOf(records.slice(0, 3))).toEqual([])
    expect(namesOf([{ type: 'A', name: 'x.local', data: '300.1.1.1' }])).toEqual([])
  })
})

const sighting = (more: Partial<Sighting>): Sighting => ({
  by: 'identity',
  address: '',
  hardwareAddress: '',
  says: '',
  serialNumber: '',
  orderCode: '',
  firmware: '',
  at: 1,
  ...more,
})

describe('who was heard, brought together', () => {
  test('by its hardware address, or by its address where nothing tells two apart', () => {
    const hits = hitsOf([
      sighting({ by: 'lease', hardwareAddress: '02:5E:0B:10:80:01', says: 'asks for an address', at: 1 }),
      sighting({ by: 'neighbour', hardwareAddress: '02:5E:0B:10:80:01', address: '10.20.41.200', at: 2 }),
      sighting({ by: 'name', address: '10.20.41.200', says: 'SE-2', serialNumber: 'S4 8001', at: 3 }),
    ])
    expect(hits).toHaveLength(1)
    expect(hits[0]).toMatchObject({
      id: '02:5E:0B:10:80:01',
      address: '10.20.41.200',
      serialNumber: 'S4 8001',
      by: ['lease', 'neighbour', 'name'],
      at: 1,
      lastAt: 3,
      says: 'asks for an address; SE-2',
    })
  })
  test('a serial number that is a number in one way and a text in another is of one box', () => {
    const hits = hitsOf([
      sighting({ address: '10.20.40.70', serialNumber: '0B103301' }),
      sighting({ by: 'name', address: '10.20.40.70', serialNumber: 'S4 3301' }),
    ])
    expect(hits).toHaveLength(1)
    expect(hits[0]).toMatchObject({ serialNumber: '0B103301', serialBy: 'identity', by: ['identity', 'name'] })
  })
  test('two serial numbers at one address are two', () => {
    const hits = hitsOf(['1', '2'].map((serialNumber) => sighting({ address: '192.168.1.20', serialNumber })))
    expect(hits.map(({ id }) => id)).toEqual(['192.168.1.20 1', '192.168.1.20 2'])
  })
})

describe('who was heard, against the plan', () => {
  const io = sampleDevice('RIO-111', '10.20.40.30', {
    kind: 'remote-io',
    asFound: '192.168.66.30',
    serialNumber: 'S4 3001',
  })
  const twins = ['PD-101', 'PD-102'].map((tag, n) =>
    sampleDevice(tag, `10.20.40.2${n + 1}`, { kind: 'drive', asFound: '' }),
  )
  const unit = sampleDevice('RCU-301', '10.20.40.70', { kind: 'remote-control-unit', asFound: '10.20.40.70' })
  const job = sampleJob({ devices: [io, ...twins, unit] })
  const withMac = (device: Device, text: string): WalkRecord => ({
    ...blankWalk,
    facts: [{ id: 'f', deviceId: device.id, setting: 'mac', standing: 'found', text, how: 'typed', who: 'x', at: 1 }],
  })
  const laptop: LaptopState = {
    interfaces: [{ name: 'e0', address: '10.20.40.5', prefix: 24, link: true, wireless: false, loopback: false }],
    neighbours: [],
    notes: [],
  }
  const hit = (more: Partial<Sighting>): Hit => hitsOf([sighting(more)])[0] as Hit
  const judge = (more: Partial<Sighting>, record = blankWalk) => judgeHit(job, record, laptop, hit(more))

  test('an address that it is known at, or that its kind has after a reset, says who it may be', () => {
    expect(judge({ address: '192.168.66.30' })).toMatchObject({
      candidates: [{ tag: 'RIO-111', sure: false, why: 'the address it is known at' }],
      subnet: '192.168.66.0/24',
      laptopThere: false,
      odds: '',
    })
    // Twins that nobody has told apart: both may be it.
    expect(judge({ address: '192.168.1.20' }).candidates.map(({ tag }) => tag)).toEqual(['PD-101', 'PD-102'])
    expect(judge({ address: '192.168.61.3' }).candidates).toMatchObject([
      { tag: 'RCU-301', why: 'the factory address of its kind' },
    ])
    expect(judge({ address: '10.9.9.9' }).candidates).toEqual([])
  })

  test('only what identifies a box makes it sure, and then nobody else may be it', () => {
    expect(judge({ address: '192.168.1.20', serialNumber: 's43001' }).candidates).toMatchObject([
      { tag: 'RIO-111', sure: true },
    ])
    const mac = '02:5E:0B:10:7C:14'
    const record = withMac(twins[1] as Device, mac)
    expect(judge({ address: '192.168.1.20', hardwareAddress: mac }, record).candidates).toMatchObject([
      { tag: 'PD-102', sure: true, why: `its hardware address, ${mac}` },
    ])
    // Whose label says something else, is not this one.
    expect(
      judge({ address: '192.168.1.20', hardwareAddress: '02:5E:0B:10:7C:99' }, record).candidates.map(({ tag }) => tag),
    ).toEqual(['PD-101'])
  })

  test('another box at a planned address is at odds, by label or by what it is', () => {
    const record = withMac(io, '02:5E:0B:10:30:01')
    expect(judge({ address: '10.20.40.30', hardwareAddress: '02:5E:0B:10:99:99' }, record).odds).toBe(
      '10.20.40.30 is planned for RIO-111, whose label says 02:5E:0B:10:30:01; 02:5E:0B:10:99:99 has it.',
    )
    expect(judge({ address: '10.20.40.70', serialNumber: 'S4 3001' }).odds).toBe(
      '10.20.40.70 is planned for RCU-301; this box is RIO-111.',
    )
    expect(judge({ address: '10.20.40.30' })).toMatchObject({ odds: '', laptopThere: true, subnet: '10.20.40.0/24' })
  })

  test('taken into a device: where it was found and what it says, over nothing that stands there', () => {
    const bare = { ...io, asFound: '', serialNumber: '', firmwareFound: '' }
    const heard = hit({
      address: '192.168.66.30',
      serialNumber: 'A1',
      firmware: '2.3',
      says: 'RH',
      hardwareAddress: '02:5E:0B:10:30:01',
    })
    expect(takenInto(bare, heard)).toMatchObject({
      changes: [
        { op: 'set', id: io.id, fields: { asFound: '192.168.66.30', serialNumber: 'A1', firmwareFound: '2.3' } },
      ],
      facts: [
        { setting: 'address', standing: 'found', text: '192.168.66.30' },
        { setting: 'heard', text: '02:5E:0B:10:30:01' },
        { setting: 'identity', text: 'heard on the wire: RH' },
      ],
    })
    expect(takenInto({ ...io, firmwareFound: '2.0' }, heard).changes).toEqual([])
  })
})

// 1 500 names in one answer, as a flood brings them: each is looked up, and nobody is lost.
test('thousands who were heard are each there once, and those heard twice are brought together', () => {
  const flood = Array.from({ length: 3_000 }, (_, k) =>
    sighting({ address: `10.${k >> 8}.${k & 255}.7`, hardwareAddress: '', serialNumber: '', says: `name ${k}` }),
  )
  const hits = hitsOf([...flood, ...flood.map((each) => ({ ...each, by: 'neighbour' as const }))])
  expect(hits).toHaveLength(3_000)
  expect(hits.every(({ by }) => by.length === 2)).toBe(true)
  expect(hits.map(({ address }) => address)).toEqual(flood.map(({ address }) => address))
})

test('who has the address of one and the hardware address of another is the first of the two that it can be', () => {
  const [mac, address] = ['02:5E:0B:10:30:01', '192.168.1.20']
  const hits = hitsOf([
    sighting({ address: '192.168.1.9', hardwareAddress: mac }),
    sighting({ address, hardwareAddress: '' }),
    sighting({ address, hardwareAddress: mac }),
  ])
  expect(hits).toMatchObject([{ address, hardwareAddress: mac }, { address }])
})
