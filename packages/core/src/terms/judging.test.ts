import { claspOf } from './clasp'
import { termCatalogue, termDefinition } from './catalogue'
import { readPlanOf } from './readPlan'
import type { End, HandshakeTerms, TermContext, TermEntry, TermId } from './term'

const entry = (text: string, notation?: TermEntry['notation']): TermEntry => ({ text, notation, origin: 'test' })
const both = (text: string) => ({ controller: entry(text), device: entry(text) })
const whole: HandshakeTerms = {
  address: both('10.20.40.50'),
  mask: both('255.255.255.0'),
  port: both('502'),
  'unit-id': both('1'),
  'function-code': both('04'),
  'first-register': { controller: entry('0', 'protocol'), device: entry('0', 'protocol') },
  count: both('2'),
  'data-type': both('float32'),
  'word-order': both('ABCD'),
  scale: both('1'),
}
const context = (terms: HandshakeTerms, more: Partial<TermContext> = {}): TermContext => ({
  tags: { controller: 'PLC-101', device: 'EM-501' },
  terms,
  controllerAddress: '10.20.40.10',
  sample: 230.4,
  ...more,
})
const rowOf = (terms: HandshakeTerms, id: TermId, more: Partial<TermContext> = {}) => {
  const row = claspOf(context(terms, more)).rows.find((each) => each.id === id)
  if (!row) throw new Error(id)
  return row
}
const withTerm = (id: TermId, ends: Partial<Record<End, TermEntry>>): HandshakeTerms => ({ ...whole, [id]: ends })

describe('the count of the clasp', () => {
  test('what agrees, what is at odds or cannot be read, what is not known', () => {
    expect(claspOf(context(whole))).toMatchObject({ agreeing: 10, atOdds: 0, total: 10 })
    expect(claspOf(context(withTerm('port', { controller: entry('503'), device: entry('502') })))).toMatchObject({
      agreeing: 9,
      atOdds: 1,
    })
    expect(claspOf(context(withTerm('scale', { controller: entry('0,1'), device: entry('1') })))).toMatchObject({
      agreeing: 9,
      atOdds: 1,
    })
    const blank = withTerm('scale', { controller: entry('1') })
    expect(claspOf(context(blank))).toMatchObject({ agreeing: 9, atOdds: 0 })
    expect(rowOf(blank, 'scale')).toMatchObject({ state: 'unknown', ends: { device: { state: 'blank' } } })
    expect(rowOf(withTerm('scale', { device: entry('1') }), 'scale').state).toBe('unknown')
    expect(rowOf({ ...whole, scale: {} }, 'scale').state).toBe('unknown')
  })
  test('a term is found by its id', () => {
    expect(termCatalogue.map((term) => termDefinition(term.id).id)).toEqual(termCatalogue.map((term) => term.id))
    expect(() => termDefinition('colour' as TermId)).toThrow(RangeError)
  })
})

describe('taking over what the other end has', () => {
  test.each<[TermId, string, string, string, string]>([
    ['address', '10.20.40.51', '10.20.40.50', 'Set PLC-101 to 10.20.40.50', 'Set EM-501 to 10.20.40.51'],
    ['port', '503', '502', 'Set PLC-101 to port 502', 'Set EM-501 to port 503'],
    ['unit-id', '2', '1', 'Set PLC-101 to unit 1', 'Set EM-501 to unit 2'],
    ['function-code', '03', '04', 'Set PLC-101 to 04 read input registers', 'Set EM-501 to 03 read holding registers'],
    ['count', '3', '2', 'Set PLC-101 to 2 registers', 'Set EM-501 to 3 registers'],
    ['data-type', 'int32', 'float32', 'Set PLC-101 to float 32', 'Set EM-501 to int 32'],
    ['word-order', 'CDAB', 'ABCD', 'Set PLC-101 to ABCD', 'Set EM-501 to CDAB'],
    ['scale', '0.1', '1', 'Set PLC-101 to × 1', 'Set EM-501 to × 0.1'],
  ])('%s: either end, with what it brings along', (id, controller, device, first, second) => {
    const { fixes } = rowOf(withTerm(id, { controller: entry(controller), device: entry(device) }), id)
    expect(fixes.map((fix) => [fix.end, fix.text, fix.label])).toEqual([
      ['controller', device, first],
      ['device', controller, second],
    ])
    expect(fixes[0]?.sideEffect).toBe('Change it in the program of PLC-101 too.')
    expect(fixes[1]?.sideEffect).toMatch(/^Change the .* in EM-501 too; it may need a restart\.$/)
  })
  test('a mask, where one side does not see the other as a neighbour', () => {
    const { fixes } = rowOf(
      withTerm('mask', { controller: entry('255.255.0.0'), device: entry('255.255.255.0') }),
      'mask',
      { controllerAddress: '10.20.7.10' },
    )
    expect(fixes.map((fix) => [fix.end, fix.text])).toEqual([
      ['controller', '255.255.255.0'],
      ['device', '255.255.0.0'],
    ])
    expect(fixes[0]?.label).toContain('255.255.255.0')
  })
})

describe('masks', () => {
  const masks = (controller: string, device: string) =>
    withTerm('mask', { controller: entry(controller), device: entry(device) })
  test('equal in one subnet; equal in two is a router’s work; different is told', () => {
    expect(rowOf(whole, 'mask').state).toBe('equal')
    const far = rowOf(whole, 'mask', { controllerAddress: '10.20.7.10' })
    expect(far.state).toBe('fits')
    expect(far.remark).toMatch(/different subnets/)
    expect(rowOf(masks('255.255.255.0', '255.255.255.128'), 'mask', { controllerAddress: undefined }).state).not.toBe(
      'equal',
    )
    expect(rowOf(whole, 'mask', { controllerAddress: undefined }).state).toBe('equal')
    expect(rowOf(whole, 'mask', { controllerAddress: 'nothing' }).state).toBe('equal')
  })
  test('each direction has its own reason', () => {
    const there = rowOf(masks('255.255.255.0', '255.255.0.0'), 'mask', { controllerAddress: '10.20.7.10' })
    const back = rowOf(masks('255.255.0.0', '255.255.255.0'), 'mask', { controllerAddress: '10.20.7.10' })
    expect([there.state, back.state]).toEqual(['at-odds', 'at-odds'])
    expect(there.remark).not.toBe(back.remark)
  })
})

describe('the first register', () => {
  const registers = (controller: TermEntry, device: TermEntry) => withTerm('first-register', { controller, device })
  test('equal only where both are sure; the same number that may count otherwise only fits', () => {
    expect(rowOf(whole, 'first-register').state).toBe('equal')
    expect(rowOf(registers(entry('7'), entry('7')), 'first-register')).toMatchObject({
      state: 'fits',
      remark: 'Same number; see that both count from the same',
    })
    expect(rowOf(registers(entry('7', 'protocol'), entry('7')), 'first-register').state).toBe('fits')
    expect(rowOf(registers(entry('7'), entry(' 7 ', 'protocol')), 'first-register').state).toBe('fits')
    expect(rowOf(registers(entry(' 7', 'protocol'), entry('7 ', 'protocol')), 'first-register').state).toBe('equal')
    expect(rowOf(registers(entry('0x0007', 'hex'), entry('7', 'protocol')), 'first-register')).toMatchObject({
      state: 'fits',
      remark: 'Same place: address 7',
    })
  })
  test('how far apart, and the sign of counting from 0 and from 1', () => {
    const apart = (a: string, b: string) =>
      rowOf(registers(entry(a, 'protocol'), entry(b, 'protocol')), 'first-register').remark
    expect(apart('10', '4')).toBe('PLC-101 begins at address 10, EM-501 keeps the value at 4: 6 apart.')
    expect(apart('4', '5')).toMatch(/1 apart\. One counts from 0, the other from 1\.$/)
  })
  test('two bits of one register are two places', () => {
    const bits = {
      ...registers(entry('7.3', 'protocol'), entry('7.4', 'protocol')),
      'function-code': both('03'),
    }
    const row = rowOf(bits, 'first-register')
    expect(row).toMatchObject({ state: 'at-odds', remark: 'PLC-101 and EM-501 name different bits of address 7.' })
    expect(row.fixes.map((fix) => [fix.end, fix.text])).toEqual([
      ['controller', '7.4'],
      ['device', '7.3'],
    ])
    const same = { ...registers(entry('7.3', 'protocol'), entry('7.3', 'protocol')), 'function-code': both('03') }
    expect(rowOf(same, 'first-register').state).toBe('equal')
  })
  test('a fix keeps the notation of its end, and says when it cannot', () => {
    const { fixes } = rowOf(registers(entry('30011', 'five-digit'), entry('20', 'protocol')), 'first-register')
    expect(fixes[0]).toMatchObject({
      end: 'controller',
      text: '30021',
      notation: 'five-digit',
      label: 'Read from address 20 in PLC-101',
    })
    expect(fixes[1]).toMatchObject({
      end: 'device',
      text: '30011',
      notation: 'five-digit',
      label: 'Set EM-501 to address 10',
    })
    const unnamed = rowOf(registers(entry('0x0A'), entry('20', 'protocol')), 'first-register').fixes[0]
    expect(unnamed).toMatchObject({ text: '0x0014', notation: 'hex' })
  })
  test('what contradicts the function is offered as an address only while nobody said how it counts', () => {
    const offered = (controller: TermEntry) =>
      rowOf(registers(controller, entry('0', 'protocol')), 'first-register').fixes.map((fix) => [fix.end, fix.notation])
    expect(offered(entry('40108'))).toEqual([['controller', 'protocol']])
    expect(offered(entry('40108', 'five-digit'))).toEqual([])
    expect(offered(entry('4x108'))).toEqual([])
  })
  test('one end contradicts, the other is right: the right one’s place is not offered to be left', () => {
    const row = rowOf(registers(entry('0', 'protocol'), entry('40001', 'five-digit')), 'first-register')
    expect(row).toMatchObject({ state: 'at-odds', fixes: [] })
  })
})

describe('the count', () => {
  test('one register, one bit, and several', () => {
    const shown = (code: string, count: string) =>
      rowOf({ ...whole, 'function-code': both(code), count: both(count), 'data-type': {} }, 'count').ends.device
    expect(shown('03', '1')).toMatchObject({ shown: '1 register' })
    expect(shown('03', '2')).toMatchObject({ shown: '2 registers' })
    expect(shown('02', '1')).toMatchObject({ shown: '1 bit' })
    expect(termDefinition('count').format(2, entry('2'))).toBe('2 registers')
  })
  test('too few and too many are told apart', () => {
    const remark = (controller: string, device: string) =>
      rowOf(withTerm('count', { controller: entry(controller), device: entry(device) }), 'count').remark
    expect(remark('1', '2')).toBe('PLC-101 reads 1 of 2 registers: part of the value is missing.')
    expect(remark('4', '2')).toBe('PLC-101 reads 4 registers, the value has 2: it takes foreign ones with it.')
  })
  test('both ends too few for the type: either is set to what it takes', () => {
    const row = rowOf({ ...whole, count: both('1') }, 'count')
    expect(row.remark).toBe('float 32 takes 2 registers; both ends say 1.')
    expect(row.fixes.map((fix) => [fix.end, fix.text, fix.label])).toEqual([
      ['controller', '2', 'Set PLC-101 to 2 registers'],
      ['device', '2', 'Set EM-501 to 2 registers'],
    ])
    expect(rowOf({ ...whole, count: both('4') }, 'count').state).toBe('equal')
    const byController = { ...whole, count: both('1'), 'data-type': { controller: entry('float64') } }
    expect(rowOf(byController, 'count').remark).toMatch(/^float 64 takes 4 registers/)
    expect(rowOf({ ...whole, count: both('9'), 'data-type': both('ascii') }, 'count').state).toBe('equal')
    const sixteen = { ...whole, 'function-code': both('01'), count: both('8'), 'data-type': both('bits16') }
    expect(rowOf(sixteen, 'count').remark).toBe('16 bits takes 16 bits; both ends say 8.')
  })
  test('without a function code the larger limit stands, with it its own', () => {
    const unknown = { ...whole, 'function-code': {}, count: both('2000') }
    expect(rowOf(unknown, 'count').state).toBe('equal')
    expect(rowOf({ ...unknown, count: both('2001') }, 'count')).toMatchObject({ state: 'refused' })
    expect(rowOf({ ...whole, count: both('125') }, 'count').state).toBe('equal')
    expect(rowOf({ ...whole, count: both('126') }, 'count').remark).toMatch(/at most 125 registers\.$/)
    // One end's code is enough to know what is read.
    const one = { ...whole, 'function-code': { device: entry('01') }, count: both('2000'), 'data-type': both('bool') }
    expect(rowOf(one, 'count').state).toBe('equal')
    expect(termDefinition('count').parse(entry('2000')).ok).toBe(true)
  })
})

describe('words', () => {
  test('one register: the order of words does not matter, that of bytes does', () => {
    const order = (controller: string, device: string, type: string) =>
      rowOf(
        { ...whole, 'word-order': { controller: entry(controller), device: entry(device) }, 'data-type': both(type) },
        'word-order',
      )
    expect(order('CDAB', 'ABCD', 'int16')).toMatchObject({ state: 'fits' })
    expect(order('BADC', 'ABCD', 'int16').state).toBe('at-odds')
    expect(order('CDAB', 'ABCD', 'float32').state).toBe('at-odds')
    expect(order('DCBA', 'BADC', 'int16').state).toBe('fits')
    expect(order(' cdab', 'CDAB ', 'float32').state).toBe('equal')
  })
  test('the consequence is told only where a sample and a type are known', () => {
    const swapped = { ...whole, 'word-order': { controller: entry('CDAB'), device: entry('ABCD') } }
    expect(rowOf(swapped, 'word-order').remark).toMatch(/230\.4 would read as/)
    expect(rowOf(swapped, 'word-order', { sample: undefined }).remark).not.toMatch(/would read/)
    expect(rowOf({ ...swapped, 'data-type': {} }, 'word-order').remark).not.toMatch(/would read/)
  })
  test('a type for bits: what makes it whole, at which end', () => {
    const coils = {
      ...whole,
      'function-code': both('01'),
      'data-type': { controller: entry('bool'), device: entry('uint16') },
    }
    const row = rowOf(coils, 'data-type')
    expect(row.remark).toBe('A coil is one bit; uint 16 is made of registers.')
    expect(row.fixes).toMatchObject([{ end: 'device', text: 'bool', label: 'Read EM-501 as bool' }])
    expect(rowOf({ ...coils, 'function-code': both('02') }, 'data-type').remark).toMatch(/^A discrete input is one bit/)
    expect(rowOf({ ...coils, 'data-type': both(' BITS16 ') }, 'data-type').state).toBe('equal')
  })
  test('the scale says how many times too much', () => {
    const row = rowOf(withTerm('scale', { controller: entry('10'), device: entry('0.1') }), 'scale')
    expect(row.remark).toMatch(/100 times too much/)
  })
})

describe('the function code', () => {
  test.each([
    ['4', 4],
    ['04', 4],
    ['FC4', 4],
    ['fc 04', 4],
    ['FC  3', 3],
    [' 1 ', 1],
  ])('%j is read as %d', (text, code) =>
    expect(termDefinition('function-code').parse(entry(text))).toEqual({ ok: true, value: code }),
  )
  test.each(['16', '5', '0', 'FC', '4fc', 'x4', '004', ''])('%j reads no values', (text) =>
    expect(termDefinition('function-code').parse(entry(text)).ok).toBe(false),
  )
})

describe('a read plan', () => {
  const gapsOf = (terms: HandshakeTerms) => {
    const plan = readPlanOf(terms, 'device')
    return plan.ok ? [] : plan.refusal.gaps.map((gap) => `${gap.term}: ${gap.what}`)
  }
  test.each<[TermId, string]>([
    ['address', 'Address is blank.'],
    ['port', 'TCP port is blank.'],
    ['unit-id', 'Unit id is blank.'],
    ['function-code', 'Function code is blank.'],
    ['first-register', 'The register is blank.'],
    ['count', 'Count is blank.'],
    ['data-type', 'Data type is blank.'],
    ['word-order', 'Word order is blank.'],
  ])('without %s there is none, and only that is missing', (id, what) => {
    for (const ends of [{}, { controller: entry('1') }, { device: entry('  ') }]) {
      const gaps = gapsOf(withTerm(id, ends))
      expect(gaps).toEqual([expect.stringMatching(new RegExp(`^${id}: `))])
      if (id !== 'port') expect(gaps[0]).toBe(`${id}: ${what}`)
    }
  })
  test('what cannot be read is a gap with its reason; a scale that is not said is 1', () => {
    expect(gapsOf(withTerm('port', { device: entry('70000') }))).toEqual([expect.stringMatching(/^port: /)])
    expect(gapsOf(withTerm('scale', { device: entry('0,1') }))).toEqual([expect.stringMatching(/^scale: /)])
    expect(readPlanOf({ ...whole, scale: { controller: entry('5') } }, 'device')).toMatchObject({
      ok: true,
      value: { scale: 1 },
    })
    expect(readPlanOf(withTerm('scale', { device: entry('0.1') }), 'device')).toMatchObject({
      ok: true,
      value: { scale: 0.1 },
    })
  })
  test('a text takes as many registers as are counted; bits need no word order', () => {
    const text = { ...whole, count: both('8'), 'data-type': both('ascii') }
    expect(readPlanOf(text, 'device')).toMatchObject({ value: { format: { type: 'ascii', registers: 8 } } })
    expect(readPlanOf(whole, 'device')).toMatchObject({ value: { format: { registers: undefined } } })
    const coils = {
      ...whole,
      'function-code': both('01'),
      count: both('16'),
      'data-type': both('bits16'),
      'word-order': {},
    }
    expect(readPlanOf(coils, 'device')).toMatchObject({ ok: true, value: { request: { code: 1, count: 16 } } })
    expect(gapsOf({ ...coils, count: both('15') })).toEqual(['count: 16 bits takes 16 bits; the count says 15.'])
    expect(gapsOf({ ...coils, 'data-type': both('int16') })).toEqual([
      'data-type: int 16 is made of registers; function 1 brings bits.',
    ])
    const bit = {
      ...whole,
      'function-code': both('03'),
      'first-register': both('7.3'),
      'data-type': both('bool'),
      count: both('1'),
    }
    expect(readPlanOf(bit, 'device')).toMatchObject({ value: { request: { address: 7 }, format: { bit: 3 } } })
  })
})

describe('the settings of a line', () => {
  const line = { name: 'Meter line', isSerial: true, family: 'decimal-1-247', stations: 3, others: () => [] }
  const ends = (controller: string, device: string) =>
    withTerm('line-settings', { controller: entry(controller), device: entry(device) })
  const rowWith = (controller: string, device: string) => rowOf(ends(controller, device), 'line-settings', { line })

  test('are a term on a line only: a device with an address of its own has ten terms', () => {
    expect(claspOf(context(ends('9600 8N1', '9600 8E1')))).toMatchObject({ agreeing: 10, atOdds: 0, total: 10 })
    expect(claspOf(context(ends('9600 8E1', '9600 8E1'), { line }))).toMatchObject({ agreeing: 11, total: 11 })
    expect(claspOf(context(whole, { line }))).toMatchObject({ agreeing: 10, total: 11 })
  })

  test('another parity is at odds; the device is set, or the whole line', () => {
    expect(rowWith('9600 8N1', '9600,8,E,1')).toMatchObject({
      state: 'at-odds',
      remark: 'No parity here, even parity there. The unit stays silent.',
      fixes: [
        { end: 'device', text: '9600 8N1', label: 'Set EM-501 to 9600 8N1' },
        {
          end: 'controller',
          text: '9600 8E1',
          label: 'Set the line to 9600 8E1',
          sideEffect: 'Then every other unit on Meter line must be set to it too.',
        },
      ],
    })
  })

  test('two stop bits into one fit, and it is said; the same in other words is equal', () => {
    expect(rowWith('9600 8E1', '9600 8E2')).toMatchObject({ state: 'fits', remark: expect.stringMatching(/stop bit/) })
    expect(rowWith('9600 8N1', '9600 8N1')).toMatchObject({ state: 'fits', remark: expect.stringMatching(/standard/) })
    expect(rowWith('19200 8E1', '19.2k 8-even-1').state).toBe('equal')
    expect(rowWith('9600 8E1', 'fast')).toMatchObject({ state: 'refused', remark: expect.stringMatching(/"fast"/) })
  })
})
