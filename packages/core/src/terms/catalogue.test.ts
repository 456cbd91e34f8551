import { claspOf } from './clasp'
import { termCatalogue, termDefinition, termGroups } from './catalogue'
import type { Exchange } from './exchanges'
import { halfReadsAs } from './analogTerms'
import { namesApart } from './makeTerm'
import { longestLine } from './lineTerms'
import type { End, HandshakeTerms, TermContext, TermId, TermLine } from './term'
import { termIds } from './termIds'

const line = (more: Partial<TermLine> = {}): TermLine => ({
  name: 'Line 1',
  isSerial: true,
  family: 'decimal-1-247',
  stations: 3,
  others: () => [],
  ...more,
})
const serial: Partial<TermContext> = { line: line(), carrier: 'line' }
const bus: Partial<TermContext> = {
  exchange: 'bus',
  line: line({ isSerial: false, family: 'decimal-0-125' }),
  carrier: 'line',
}
const over = (exchange: Exchange): Partial<TermContext> => ({ exchange })
const behind: Partial<TermContext> = { ...over('command'), passedOn: true }
const drive: Partial<TermContext> = { roles: { controller: 'controller', device: 'drive' } }
const meter: Partial<TermContext> = { roles: { controller: 'controller', device: 'meter' } }

type Pair = readonly [controller: string, device: string]
const said = (
  id: TermId,
  [controller, device]: Pair,
  others: Readonly<Partial<Record<TermId, Pair>>>,
): HandshakeTerms =>
  Object.fromEntries(
    Object.entries({ ...others, [id]: [controller, device] }).map(([each, [c, d]]) => [
      each,
      { ...(c && { controller: { text: c, origin: '' } }), ...(d && { device: { text: d, origin: '' } }) },
    ]),
  )
const contextOf = (
  id: TermId,
  pair: Pair,
  more: Partial<TermContext>,
  others: Readonly<Partial<Record<TermId, Pair>>> = {},
): TermContext => ({
  tags: { controller: 'PLC-1', device: 'DEV-1' },
  ...more,
  terms: said(id, pair, others),
})
const rowOf = (context: TermContext, id: TermId) => {
  const clasp = claspOf(context)
  const row = [...clasp.rows, ...clasp.more].find((each) => each.id === id)
  if (!row) throw new Error(`no row ${id}`)
  return row
}

interface Case {
  readonly id: TermId
  readonly where: Partial<TermContext>
  readonly good: Pair
  readonly bad: Pair
  readonly why: RegExp
  readonly others?: Readonly<Partial<Record<TermId, Pair>>>
}
const of = (
  id: TermId,
  where: Partial<TermContext>,
  good: Pair,
  bad: Pair,
  why: RegExp,
  others?: Case['others'],
): Case => ({
  id,
  where,
  good,
  bad,
  why,
  ...(others && { others }),
})

// Relations and reasons are facts of the trade where nothing else is named: common practice, no source.
const cases: readonly Case[] = [
  of('address', {}, ['10.0.0.5', '10.0.0.5'], ['10.0.0.5', '10.0.0.6'], /is at 10\.0\.0\.6/),
  of(
    'mask',
    { controllerAddress: '10.0.7.10' },
    ['255.255.255.0', '255.255.255.0'],
    ['255.255.0.0', '255.255.255.0'],
    /cannot answer straight back/,
    { address: ['10.0.40.5', '10.0.40.5'] },
  ),
  of('gateway', { controllerAddress: '10.0.7.10' }, ['10.0.7.1', '10.0.40.1'], ['10.0.7.1', 'none'], /has no gateway/, {
    address: ['10.0.40.5', '10.0.40.5'],
    mask: ['255.255.255.0', '255.255.255.0'],
  }),
  of('address-way', {}, ['fixed', 'set in the device'], ['fixed', '0.0.0.0'], /takes any address/),
  of('port', {}, ['502', '502'], ['503', '502'], /listens on 502/),
  of('text-port', over('command'), ['9100', '9100'], ['9100', '9101'], /Nobody listens/),
  of('page-scheme', {}, ['https', 'https'], ['http', 'https'], /shows nothing/),
  of('unit-id', {}, ['3', '3'], ['2', '3'], /answers as unit 3/),
  of('node', bus, ['12', '12'], ['12', '13'], /not there, or another/),
  of('slot', over('cyclic'), ['3', '3'], ['3', '4'], /empty place/),
  of('role', {}, ['client', 'server'], ['client', 'master'], /Both ask/),
  of('service', {}, ['on', 'enabled'], ['on', 'off'], /refuses the connection/),
  of('connections', {}, ['2', '4'], ['5', '4'], /refused/),
  of('line-settings', serial, ['9600 8E1', '9600 8E1'], ['9600 8E1', '9600 8N1'], /no parity/i),
  of('bus-rate', bus, ['1.5 Mbit/s', '1500 kbit/s'], ['500 kbit/s', '187.5 kbit/s'], /hears nothing/),
  of('electrical', serial, ['rs-422', 'rs-485-four-wire'], ['rs-485-two-wire', 'rs-485-four-wire'], /Other voltages/),
  of('duplex', serial, ['half', 'half'], ['full', 'half'], /one direction at a time/, {
    electrical: ['rs-485-two-wire', 'rs-485-two-wire'],
  }),
  of('flow-control', serial, ['none', 'none'], ['none', 'xon/xoff'], /11 and 13 hex/),
  of('serial-role', serial, ['terminal', 'modem'], ['', ''], /never/),
  of('cable', serial, ['null-modem', 'crossed'], ['straight', 'straight'], /want a null-modem cable/, {
    'serial-role': ['terminal', 'dte'],
  }),
  of('converter-topology', behind, ['multi-drop', 'multi-drop'], ['multi-drop', 'point to point'], /one partner/),
  of('live-connector', behind, ['terminals', 'screw'], ['terminals', '9-pin'], /dead connector/),
  of('termination', serial, ['end-on', 'end-built-in'], ['end-on', 'between-on'], /between the ends and terminated/),
  of('bias', serial, ['on', 'off'], ['on', 'on'], /2 points bias/),
  of('ground', serial, ['connected', 'connected'], ['connected', 'open'], /drift apart/),
  of('line-length', serial, ['', '860'], ['', '1300'], /868 m is the most/, {
    'line-settings': ['115200 8N1', ''],
    electrical: ['rs-485-two-wire', ''],
  }),
  of('drop-length', serial, ['', '5'], ['', '40'], /Wire it through/),
  of(
    'unit-loads',
    { ...serial, line: line({ others: (id) => (id === 'unit-loads' ? [{ tag: 'X', text: '31' }] : []) }) },
    ['', '1'],
    ['', '2'],
    /33 of 32/,
  ),
  of('segment-stations', bus, ['', '32'], ['', '33'], /repeater/),
  of('repeaters', bus, ['', '3'], ['', '12'], /9 is the most/),
  of('topology', over('cyclic'), ['ring', 'ring'], ['ring', 'line'], /loop/),
  of('variant', serial, ['rtu', 'RTU'], ['rtu', 'ascii'], /for noise/),
  of('function-code', {}, ['03', '3'], ['03', '04'], /input registers/),
  of('first-register', {}, ['10', '10'], ['10', '12'], /2 apart/),
  of('count', {}, ['2', '2'], ['1', '2'], /part of the value/),
  of('largest-read', {}, ['', '60'], ['', '50'], /gives 50/, { count: ['60', '60'] }),
  of('timeout', {}, ['1000', '0.2 s'], ['100', '250 ms'], /nobody waits/),
  of('retries', {}, ['1', '0'], ['', ''], /never/),
  of('poll-interval', {}, ['500 ms', '200'], ['100', '200 ms'], /asked too fast/),
  of('update-interval', over('cyclic'), ['20 ms', '2 to 750 ms'], ['1 ms', '2..750'], /takes 2 to 750 ms/),
  // 60 data words, 2 status words in and 1 control word out: 62 and 61, check values of the maps.
  of('input-size', over('cyclic'), ['62 words', '60 words'], ['60 words', '60 words'], /62 words at PLC-1/, {
    'input-status': ['', '2 words'],
  }),
  of('input-status', over('cyclic'), ['2', '2 words'], ['0', '2'], /shifted/),
  of('output-size', over('cyclic'), ['61 words', '60 words'], ['62 words', '60 words'], /61 words at PLC-1/, {
    'output-status': ['', '1'],
  }),
  of('output-status', over('cyclic'), ['1', '1'], ['1', '2'], /shifted/),
  of('config-size', over('cyclic'), ['10 bytes', '10 bytes'], ['10 bytes', '12 bytes'], /refused/),
  of('image', over('cyclic'), ['fixed', 'fixed'], ['fixed', 'sized'], /never meet/),
  of('prefix', over('command'), ['STX', '02'], ['STX', 'none'], /cut at the wrong place/),
  of('suffix', over('command'), ['CR LF', '0D 0A'], ['CR', 'CR LF'], /cut at the wrong place/),
  of('gap', over('command'), ['30', '30 ms'], ['30', '50'], /cuts messages apart/),
  of('answer-length', over('command'), ['64', '50 bytes'], ['32', '20 words'], /cut off/),
  of('checksum', over('command'), ['crc', 'CRC-16'], ['crc', 'bcc'], /damaged/),
  of('duplicate-messages', behind, ['ignored', 'ignored'], ['ignored', 'taken'], /done twice/),
  of('embedded-answers', behind, ['no', 'no'], ['yes', 'no'], /part of the message/),
  of('diagnostics', behind, ['passed on', 'passed-on'], ['executed', 'passed on'], /answers for itself/),
  of('data-type', {}, ['REAL', 'float32'], ['int32', 'float32'], /takes it for int 32/),
  of('word-order', {}, ['ABCD', 'ABCD'], ['CDAB', 'ABCD'], /takes it as low word first/),
  of('byte-order', over('cyclic'), ['big-endian', 'high-first'], ['high-first', 'low-first'], /256/),
  of('data-format', over('cyclic'), ['INT', 'words'], ['words', 'bytes'], /count other elements/),
  of('scale', {}, ['0.1', '0.10'], ['1', '0.1'], /times/),
  // 2.5 V of a 0 to 5 V sensor reads 25 % on a 0 to 10 V channel, check values.
  of('signal', over('analog'), ['4-20', '4-20-ma'], ['0-10-v', '0-5-v'], /reads as 25 % instead of 50/),
  of(
    'signal-range',
    over('analog'),
    ['0 to 250 l/min', '0..250 l/min'],
    ['0 to 250 l/min', '0 to 15 m³/h'],
    /In l\/min here/,
  ),
  of('raw-counts', over('analog'), ['400 to 2000', '400..2000'], ['0 to 2000', '400 to 2000'], /same factor/),
  of('channel-word', over('analog'), ['0x8100', '33024'], ['0x8100', '0'], /switched off/),
  of('transformer-ratio', meter, ['200/5', '200/5 A'], ['200/5', '250/5'], /a factor of 0\.8/),
  of('pulses-per-unit', {}, ['1000', '1000'], ['1000', '500'], /shows something else/),
  of('firmware', {}, ['at least 2.9', '2.10'], ['>= 2.10', '2.9'], /has 2\.9, asked for is at least 2\.10/),
  of('hardware', {}, ['3', '4'], ['4', '3'], /cannot take the firmware/),
  of('description-file', bus, ['1.2', '1.2.0'], ['1.2', '1.3'], /another revision/),
  of('programming-tool', {}, ['12.1', 'v12.1'], ['12.1', '12.0'], /cannot open/),
  of('setup-tool', {}, ['5', '5.2'], ['5', '4.9'], /nobody sees them/),
  of('driver', {}, ['2', '2'], ['2', '1.9'], /does not show/),
  of('server-version', over('supervision'), ['4.10', '4.9'], ['4.9', '4.10'], /newer than its server/),
  of('archive-version', over('supervision'), ['4.9', '4.9'], ['4.9', '4.8'], /loads in part/),
  of('name', {}, ['pd-101', 'pd-101'], ['pd-1O1', 'pd-101'], /They look alike/),
  of('module-name', over('cyclic'), ['AI_1', 'AI_1'], ['AI_1', 'AI_l'], /They look alike/),
  of('order-code', {}, ['A-10', 'A-10'], ['A-10', 'A-11'], /1 sign differs/),
  of('serial-number', {}, ['42', '42'], ['42', '43'], /twin/),
  of('linked-id', {}, ['2', '2'], ['2', '3'], /another one, or from none/),
  of('signature', over('cyclic'), ['0x4f2a', '4F2A'], ['4F2A', '4F2B'], /configured after/),
  of('clock-zone', {}, ['UTC+1', '+01:00'], ['UTC+1', 'UTC'], /1 h apart/),
  of('config-run', {}, ['run', 'operate'], ['run', 'configure'], /obeys nothing/),
  of('local-remote', {}, ['remote', 'network'], ['remote', 'local'], /does not obey/),
  of('program-run', {}, ['run', 'run'], ['run', 'program'], /stay as they are/),
  of('port-mode', {}, ['protocol', 'this protocol'], ['protocol', 'console'], /speaks something else/),
  of('mode-switch', over('command'), ['asked', 'host'], ['asked', 'continuous'], /Nobody waits/),
  of('command-source', drive, ['network', 'bus'], ['network', 'keypad'], /does not start/),
  of('setpoint-source', drive, ['network', 'network'], ['network', 'analog input'], /another speed/),
  of('settings-keeper', {}, ['controller', 'controller'], ['controller', 'device'], /starts last wins/),
  of(
    'settings-writers',
    {},
    ['40001 to 40010', '40011 to 40020'],
    ['40001 to 40010', '40008, 40030'],
    /Both write 40008/,
  ),
  of('send-scope', {}, ['all', 'everything'], ['all', 'one page'], /old values/),
  of('watchdog', {}, ['', '1000'], ['', '400'], /trips after 400 ms, and is written every 500/, {
    'poll-interval': ['500', '100'],
  }),
  of('fail-safe', {}, ['off', 'zero'], ['off', 'hold'], /keeps running/),
]

describe('the catalogue of terms', () => {
  test('every term has its source, why, relation, explanation and a case here; ids and order are one list', () => {
    expect(termCatalogue.map(({ id }) => id)).toEqual([...termIds])
    expect(new Set(cases.map(({ id }) => id))).toEqual(new Set(termIds))
    for (const term of termCatalogue) {
      for (const text of [term.source, term.why, term.relation, term.explain, term.name])
        expect([term.id, text.length > 2]).toEqual([term.id, true])
      expect(Object.keys(termGroups)).toContain(term.group)
    }
  })

  test.each(cases.map((each) => [each.id, each] as const))('%s: agrees, and is at odds for its reason', (id, each) => {
    const good = rowOf(contextOf(id, each.good, each.where, each.others), id)
    expect([good.state, good.remark]).toEqual([expect.stringMatching(/^(equal|fits)$/), good.remark])
    if (each.why.source === 'never') return
    const bad = rowOf(contextOf(id, each.bad, each.where, each.others), id)
    expect([bad.state, bad.remark]).toEqual(['at-odds', expect.stringMatching(each.why)])
  })

  test('a way out that is offered leads out: the term itself is not at odds any more', () => {
    let taken = 0
    for (const { id, where, bad, others, why } of cases) {
      if (why.source === 'never') continue
      for (const fix of rowOf(contextOf(id, bad, where, others), id).fixes) {
        const [controller, device] = fix.end === 'controller' ? [fix.text, bad[1]] : [bad[0], fix.text]
        const after = rowOf(contextOf(id, [controller, device], where, others), id)
        // Where each end is wrong by itself, setting one leaves the other.
        const left = after.state === 'at-odds' && after.fixes.every((each) => each.end !== fix.end)
        expect([id, fix.label, left || after.state !== 'at-odds']).toEqual([id, fix.label, true])
        taken += 1
      }
    }
    expect(taken).toBeGreaterThan(80)
  })

  test('what an end says is never shown as a choice that is not one, and what is no value is refused with what is expected', () => {
    for (const { id, good } of cases) {
      const definition = termDefinition(id)
      for (const end of ['controller', 'device'] as readonly End[]) {
        const text = good[end === 'controller' ? 0 : 1]
        if (text === '') continue
        const read = definition.parse({ text, origin: '' }, { terms: {}, end })
        expect([id, end, read.ok]).toEqual([id, end, true])
      }
      const odd = definition.parse({ text: '\u2603 ?', origin: '' }, { terms: {}, end: 'device' })
      if (!odd.ok) expect(odd.refusal.expected).not.toBe('')
      else expect(['name', 'module-name', 'order-code', 'serial-number', 'linked-id', 'clock-zone']).toContain(id)
    }
  })
})

describe('which terms there are between two ends', () => {
  const ids = (context: Partial<TermContext>) => {
    const clasp = claspOf({ tags: { controller: 'a', device: 'b' }, terms: {}, ...context })
    return { asked: clasp.rows.map(({ id }) => id), more: clasp.more.map(({ id }) => id) }
  }

  test('a unit on the controller’s own line is never judged on IPv4 terms', () => {
    const { asked, more } = ids(serial)
    for (const id of ['address', 'mask', 'port', 'text-port', 'page-scheme', 'service'] as const)
      expect([...asked, ...more]).not.toContain(id)
    expect(asked).toEqual(expect.arrayContaining(['unit-id', 'line-settings', 'function-code']))
  })

  test('Modbus over TCP asks for the ten terms that it always did; the rest is there to be said', () => {
    const { asked, more } = ids({})
    expect(asked).toHaveLength(10)
    expect(more).toEqual(expect.arrayContaining(['timeout', 'firmware', 'local-remote']))
    expect([...asked, ...more]).not.toContain('termination')
  })

  test.each<[Exchange, readonly TermId[], readonly TermId[]]>([
    ['cyclic', ['input-size', 'output-size', 'update-interval', 'data-format'], ['function-code', 'node']],
    ['bus', ['node', 'bus-rate'], ['address', 'function-code']],
    ['command', ['suffix', 'text-port'], ['function-code', 'update-interval']],
    ['analog', ['signal', 'signal-range'], ['address', 'unit-id']],
    ['supervision', ['server-version', 'name', 'address'], ['function-code']],
  ])('%s', (exchange, there, never) => {
    const { asked, more } = ids({ exchange })
    expect(asked).toEqual(expect.arrayContaining([...there]))
    for (const id of never) expect([...asked, ...more]).not.toContain(id)
  })

  test('what is known without anybody having said it is a row only where it is at odds', () => {
    const known = (device: string): HandshakeTerms => ({
      firmware: { controller: { text: '>= 2.1', origin: 'Line-up' }, device: { text: device, origin: 'Line-up' } },
    })
    const base = { tags: { controller: 'a', device: 'b' }, terms: {} }
    expect(claspOf({ ...base, known: known('2.1') }).rows.map(({ id }) => id)).not.toContain('firmware')
    expect(claspOf({ ...base, known: known('2.1') }).more.find(({ id }) => id === 'firmware')).toMatchObject({
      state: 'equal',
      ends: { device: { derived: true } },
    })
    expect(claspOf({ ...base, known: known('2.0') }).rows.find(({ id }) => id === 'firmware')).toMatchObject({
      state: 'at-odds',
    })
  })
})

describe('single relations', () => {
  test('bare sizes are asked back, 0 is none, too much is refused with the limit of the exchange', () => {
    const size = (text: string) => termDefinition('input-size').parse({ text, origin: '' })
    expect(size('62')).toMatchObject({ ok: false, refusal: { offers: [{ value: '62 words' }, { value: '62 bytes' }] } })
    expect(size('0')).toMatchObject({ ok: false, refusal: { offers: [{ value: 'none' }] } })
    expect(size('1500 bytes')).toMatchObject({ ok: false, refusal: { code: 'size.range' } })
    // 244 bytes each way: IEC 61158 type 3.
    expect(rowOf(contextOf('input-size', ['300 bytes', '300 bytes'], bus), 'input-size').remark).toMatch(
      /244 is the most/,
    )
    expect(rowOf(contextOf('input-size', ['300 bytes', '300 bytes'], over('cyclic')), 'input-size').state).toBe('equal')
  })

  test('an odd byte count rounds up to the words of the controller', () => {
    const row = rowOf(contextOf('input-size', ['3 words', '5 bytes'], over('cyclic')), 'input-size')
    expect(row).toMatchObject({ state: 'fits', remark: expect.stringMatching(/rounded up/) })
    expect(rowOf(contextOf('input-size', ['2 words', '5 bytes'], over('cyclic')), 'input-size').fixes[0]?.text).toBe(
      '3 words',
    )
  })

  test('a node is read as its family writes it: 78 is no octal node, 10 octal is decimal 8, a twin on the bus is told', () => {
    const octal = { ...bus, line: line({ isSerial: false, family: 'octal-0-77' }) }
    expect(rowOf(contextOf('node', ['78', '10'], octal), 'node')).toMatchObject({
      state: 'at-odds',
      remark: expect.stringMatching(/8|octal/),
    })
    expect(rowOf(contextOf('node', ['10', '10'], octal), 'node').state).toBe('equal')
    const limited = { ...bus, limits: { rates: [500_000], nodes: [1, 63] as const } }
    expect(rowOf(contextOf('node', ['70', '70'], limited), 'node').remark).toMatch(
      /outside 1 to 63, which the description/,
    )
    expect(rowOf(contextOf('bus-rate', ['187.5 kbit/s', '187.5 kbit/s'], limited), 'bus-rate').remark).toMatch(
      /Its description file says 500 kbit\/s/,
    )
    const twin = {
      ...bus,
      line: line({ isSerial: false, family: 'decimal-0-125', others: () => [{ tag: 'X', text: '12' }] }),
    }
    expect(rowOf(contextOf('node', ['12', '12'], twin), 'node').remark).toMatch(/X has node 12/)
  })

  test('both ends terminated and nothing between: counted over the whole line', () => {
    const others = (texts: readonly string[]) => ({
      ...serial,
      line: line({ others: (id) => (id === 'termination' ? texts.map((text, k) => ({ tag: `U${k}`, text })) : []) }),
    })
    const own: Pair = ['end-built-in', 'between-off']
    expect(rowOf(contextOf('termination', own, others([])), 'termination')).toMatchObject({
      state: 'at-odds',
      remark: expect.stringMatching(/Only PLC-1/),
    })
    expect(rowOf(contextOf('termination', own, others(['end-on'])), 'termination')).toMatchObject({
      state: 'fits',
      remark: 'Both ends terminated: PLC-1 and U0',
    })
    expect(rowOf(contextOf('termination', own, others(['end-on', 'end-on'])), 'termination').remark).toMatch(
      /3 terminators/,
    )
  })

  test('bias at exactly one point of the line, unless no receiver needs it', () => {
    const bias = (pair: Pair) => rowOf(contextOf('bias', pair, serial), 'bias').state
    expect([
      bias(['off', 'off']),
      bias(['not needed', 'not needed']),
      bias(['off', 'not needed']),
      bias(['off', 'on']),
    ]).toEqual(['at-odds', 'fits', 'at-odds', 'fits'])
  })

  test('what another term says counts by its meaning, however it is written; loads are fractions too', () => {
    const duplex = (wires: string) =>
      rowOf(contextOf('duplex', ['full', 'half'], serial, { electrical: [wires, wires] }), 'duplex').remark
    for (const wires of ['2-wire', 'RS-485, two wires', 'rs485'])
      expect(duplex(wires)).toMatch(/one direction at a time/)
    expect(
      rowOf(contextOf('embedded-answers', ['yes', 'yes'], behind, { duplex: ['Half', 'half'] }), 'embedded-answers')
        .state,
    ).toBe('at-odds')
    const ids = claspOf(contextOf('electrical', ['2-wire', '2-wire'], serial)).more.map(({ id }) => id)
    expect(ids).not.toContain('cable')
    const eighth = {
      ...serial,
      line: line({ others: (id) => (id === 'unit-loads' ? [{ tag: 'X', text: '1/8' }] : []) }),
    }
    expect(rowOf(contextOf('unit-loads', ['', '1/8'], eighth), 'unit-loads')).toMatchObject({
      state: 'fits',
      remark: '0.25 of 32 by those that are known',
    })
  })

  test('the cable follows from the two ends', () => {
    const cable = (roles: Pair) => rowOf(contextOf('serial-role', roles, serial), 'serial-role').remark
    expect([cable(['dte', 'dte']), cable(['dte', 'dce']), cable(['dce', 'dce'])]).toEqual([
      expect.stringMatching(/null-modem/),
      expect.stringMatching(/straight/),
      expect.stringMatching(/null-modem/),
    ])
  })

  // TIA-485-A 1 200 m; IEC 61158 type 3: 1 000 m at 187.5 kbit/s, 400 m at 500 k, 200 m at 1.5 M, 100 m above.
  test.each([
    ['93.75 kbit/s', 1200],
    ['187.5 kbit/s', 1000],
    ['500 kbit/s', 400],
    ['1.5 Mbit/s', 200],
    ['12 Mbit/s', 100],
  ])('a segment at %s is at most %s m long', (rate, metres) =>
    expect(longestLine(contextOf('bus-rate', [rate, rate], bus))).toBe(metres),
  )

  test('a rate that the bus does not have is told with those that it has', () =>
    expect(rowOf(contextOf('bus-rate', ['250 kbit/s', '250 kbit/s'], bus), 'bus-rate').remark).toMatch(
      /no rate of this bus: 9\.6 kbit\/s/,
    ))

  test('a gap as long as the poll interval lets messages run into each other', () =>
    expect(
      rowOf(contextOf('poll-interval', ['20', '10'], over('command'), { gap: ['30', '30'] }), 'poll-interval').remark,
    ).toMatch(/run into each other/))

  test('interval 0 is continuous, and a value', () =>
    expect(rowOf(contextOf('poll-interval', ['0', '200'], {}), 'poll-interval')).toMatchObject({
      state: 'fits',
      remark: expect.stringMatching(/^Continuous/),
    }))

  test('diagnostic requests are passed on where a processor sits behind, or at half duplex', () => {
    const processor = { ...behind, roles: { controller: 'controller', device: 'controller' } as const }
    expect(rowOf(contextOf('diagnostics', ['executed', 'executed'], processor), 'diagnostics').remark).toMatch(
      /processor/,
    )
    expect(
      rowOf(contextOf('diagnostics', ['executed', 'executed'], behind, { duplex: ['half', 'half'] }), 'diagnostics')
        .remark,
    ).toMatch(/half duplex/)
    expect(rowOf(contextOf('diagnostics', ['executed', 'executed'], behind), 'diagnostics').state).toBe('equal')
  })

  test('a version that hangs on what is not finished is marked; any does not matter', () => {
    expect(rowOf(contextOf('firmware', ['2.1', '2.1-rc2'], {}), 'firmware').remark).toMatch(
      /makers order these differently/,
    )
    expect(rowOf(contextOf('firmware', ['any', '0.1'], {}), 'firmware').state).toBe('fits')
  })

  test('half of a signal, by the arithmetic of its range', () => {
    expect(halfReadsAs('0-5-v', '1-5-v')).toBeCloseTo(37.5)
    expect(halfReadsAs('4-20-ma', '0-20-ma')).toBeCloseTo(60)
    expect(halfReadsAs('4-20-ma', '0-10-v')).toBeUndefined()
  })

  test('a term that stands in several places is at odds where one has something else; a place nobody looked at is not', () => {
    const withPlaces = (...places: readonly (readonly [string, string])[]) => {
      const context = contextOf('port', ['502', '502'], {})
      const controller = { text: '502', origin: '', places: places.map(([where, text]) => ({ where, text })) }
      return rowOf({ ...context, terms: { port: { ...context.terms.port, controller } } }, 'port')
    }
    expect(withPlaces(['project', ' 502 '], ['download target', ''])).toMatchObject({ state: 'equal' })
    expect(withPlaces(['project', '502'], ['display', '503'])).toMatchObject({
      state: 'at-odds',
      remark: 'display at PLC-1 has 503, not 502. Change it there.',
    })
    expect(withPlaces(['project', 'abc']).remark).toBe('project at PLC-1 has abc, not 502. Change it there.')
  })

  test('a gateway outside of its own subnet, or the device itself, is none', () => {
    const far = { controllerAddress: '10.0.7.10' }
    const others = { address: ['10.0.40.5', '10.0.40.5'], mask: ['255.255.255.0', '255.255.255.0'] } as const
    const remark = (pair: Pair) => rowOf(contextOf('gateway', pair, far, others), 'gateway').remark
    expect(remark(['10.0.7.1', '10.0.41.1'])).toMatch(/outside the subnet of DEV-1/)
    expect(remark(['10.0.7.10', '10.0.40.1'])).toBe('10.0.7.10 is PLC-1 itself.')
    const near = contextOf('gateway', ['10.0.40.1', 'none'], { controllerAddress: '10.0.40.9' }, others)
    expect(rowOf(near, 'gateway').remark).toMatch(/nothing goes through a router/)
  })

  test('names apart say where', () =>
    expect(namesApart('AI_l', 'AI_1')).toBe(
      '1 sign differs, the first at place 4: "l" here, "1" there. They look alike.',
    ))
})
