import { parseReference, tableOfFunction } from '../modbus'
import { claspOf } from './clasp'
import { readPlanOf } from './readPlan'
import type { HandshakeTerms, TermContext, TermEntry, TermId } from './term'

const entry = (text: string, notation?: TermEntry['notation']): TermEntry => ({ text, notation, origin: 'test' })

/** A handshake whose ends agree in everything. */
const agreeing: HandshakeTerms = {
  address: { controller: entry('10.20.40.50'), device: entry('10.20.40.50') },
  mask: { controller: entry('255.255.255.0'), device: entry('255.255.255.0') },
  port: { controller: entry('502'), device: entry('502') },
  'unit-id': { controller: entry('1'), device: entry('1') },
  'function-code': { controller: entry('04'), device: entry('4') },
  'first-register': { controller: entry('0', 'protocol'), device: entry('30001', 'five-digit') },
  count: { controller: entry('2'), device: entry('2') },
  'data-type': { controller: entry('REAL'), device: entry('float32') },
  'word-order': { controller: entry('ABCD'), device: entry('abcd') },
  scale: { controller: entry('1'), device: entry('1.0') },
}
const context = (terms: HandshakeTerms): TermContext => ({
  tags: { controller: 'PLC-101', device: 'EM-501' },
  terms,
  controllerAddress: '10.20.40.10',
  sample: 230.4,
})
const withTerm = (id: TermId, controller: TermEntry | undefined, device: TermEntry | undefined): HandshakeTerms => ({
  ...agreeing,
  [id]: { ...(controller && { controller }), ...(device && { device }) },
})
const rowOf = (terms: HandshakeTerms, id: TermId) => {
  const row = claspOf(context(terms)).rows.find((each) => each.id === id)
  if (!row) throw new Error(id)
  return row
}

describe('the clasp', () => {
  test('closes when every term is equal or fits', () => {
    const clasp = claspOf(context(agreeing))
    expect(clasp).toMatchObject({ agreeing: 10, atOdds: 0, total: 10 })
    // "Fits" is not "equal": 0 counted from 0 and 30001 are the same place.
    expect(rowOf(agreeing, 'first-register')).toMatchObject({ state: 'fits', remark: 'Same place: address 0' })
  })

  test.each<[TermId, TermEntry, TermEntry, RegExp]>([
    ['address', entry('10.20.40.51'), entry('10.20.40.50'), /asks 10\.20\.40\.51; EM-501 is at 10\.20\.40\.50/],
    ['port', entry('503'), entry('502'), /listens on 502/],
    ['unit-id', entry('2'), entry('1'), /asks unit 2; EM-501 answers as unit 1/],
    ['function-code', entry('03'), entry('04'), /04 read input registers/],
    ['first-register', entry('1', 'protocol'), entry('30001', 'five-digit'), /1 apart\. One counts from 0/],
    ['count', entry('1'), entry('2'), /part of the value is missing/],
    ['data-type', entry('int32'), entry('float32'), /takes it for int 32/],
    ['word-order', entry('CDAB'), entry('ABCD'), /230\.4 would read as 2\.72 × 10\^23/],
    ['scale', entry('0.1'), entry('1'), /0\.1 times too much/],
  ])('%s at odds: the reason and a way out', (id, controller, device, reason) => {
    const row = rowOf(withTerm(id, controller, device), id)
    expect(row.state).toBe('at-odds')
    expect(row.remark).toMatch(reason)
    expect(row.fixes.length).toBeGreaterThan(0)
  })

  test('taking the first fix closes the clasp', () => {
    for (const id of [
      'address',
      'port',
      'unit-id',
      'function-code',
      'first-register',
      'count',
      'data-type',
      'word-order',
      'scale',
    ] as const) {
      const wrong: Partial<Record<TermId, TermEntry>> = {
        address: entry('10.20.40.51'),
        port: entry('503'),
        'unit-id': entry('2'),
        'function-code': entry('03'),
        'first-register': entry('1', 'protocol'),
        count: entry('3'),
        'data-type': entry('int32'),
        'word-order': entry('CDAB'),
        scale: entry('0.1'),
      }
      const terms = withTerm(id, wrong[id], agreeing[id]?.device)
      const [fix] = rowOf(terms, id).fixes
      expect(fix?.end).toBe('controller')
      const mended = withTerm(id, entry(fix?.text ?? '', fix?.notation), agreeing[id]?.device)
      expect(claspOf(context(mended)).atOdds).toBe(0)
    }
  })

  test('an input register asked for with the code for holding registers', () => {
    const terms = { ...withTerm('function-code', entry('03'), entry('03')) }
    expect(rowOf(terms, 'first-register')).toMatchObject({
      state: 'at-odds',
      remark: expect.stringMatching(/30001 names an input register; the function code works on holding registers\./),
    })
  })

  test.each<[string, TermEntry, TermEntry]>([
    ['both ends by number', entry('40108'), entry('40108')],
    ['both ends with their notation', entry('40108', 'five-digit'), entry('40108', 'five-digit')],
    ['six digits at one end', entry('400108'), entry('107', 'protocol')],
    ['an x at the device', entry('107', 'protocol'), entry('4x108')],
  ])(
    'a holding register asked for with function 04 is at odds, never fits, never read: %s',
    (_what, controller, device) => {
      const terms = withTerm('first-register', controller, device)
      const row = rowOf(terms, 'first-register')
      expect(row).toMatchObject({
        state: 'at-odds',
        remark: expect.stringMatching(/names a holding register/),
      })
      for (const [end, own] of [
        ['controller', controller],
        ['device', device],
      ] as const) {
        if (own.text.startsWith('4')) {
          expect(readPlanOf(terms, end)).toMatchObject({ ok: false, refusal: { gaps: [{ term: 'first-register' }] } })
        }
      }
    },
  )

  test('a reference that contradicts the function is at odds while the other end is still blank', () => {
    const terms = withTerm('first-register', entry('40108'), undefined)
    expect(rowOf(terms, 'first-register').state).toBe('at-odds')
    expect(rowOf(withTerm('first-register', undefined, entry('40108')), 'first-register').state).toBe('at-odds')
  })

  test('the same number in two tables is two places', () => {
    const terms = {
      ...withTerm('first-register', entry('40001', 'five-digit'), entry('30001', 'five-digit')),
      'function-code': { controller: entry('03'), device: entry('04') },
    }
    expect(rowOf(terms, 'first-register')).toMatchObject({
      state: 'at-odds',
      remark: expect.stringMatching(/a holding register.*an input register/),
    })
    const unknown = { ...terms, 'function-code': {} }
    expect(rowOf(unknown, 'first-register')).toMatchObject({
      state: 'at-odds',
      remark: expect.stringMatching(/two tables/),
    })
  })

  test('every fix offered for a register is one that its end then reads, at the other end’s place and table', () => {
    const codes = ['01', '02', '03', '04'] as const
    const texts = ['0', '9999', '12000', '40108', '30053', '00012', '400108', '0x12', '4x108']
    let offered = 0
    for (const code of codes) {
      for (const controller of texts) {
        for (const device of texts) {
          const terms: HandshakeTerms = {
            ...withTerm('first-register', entry(controller), entry(device)),
            'function-code': { controller: entry(code), device: entry(code) },
          }
          const row = rowOf(terms, 'first-register')
          if (row.state !== 'at-odds' && row.state !== 'equal' && row.state !== 'fits') throw new Error(row.state)
          for (const fix of row.fixes) {
            offered += 1
            const mended = entry(fix.text, fix.notation)
            const after: HandshakeTerms = {
              ...terms,
              'first-register': { ...terms['first-register'], [fix.end]: mended },
              count: {},
              'data-type': {},
            }
            const read = parseReference(fix.text, { notation: fix.notation, table: tableOfFunction(Number(code)) })
            expect(read).toMatchObject({ ok: true })
            // A fix at one end leaves at most the other end's own contradiction.
            const left = rowOf(after, 'first-register')
            if (left.state === 'at-odds') expect(left.remark).toMatch(/names|counts? from|apart/)
            // Input registers are not answered with a 4xxxx.
            if (code === '04' && fix.notation !== 'protocol') expect(fix.text).not.toMatch(/^4\d{4,5}$/)
          }
        }
      }
    }
    expect(offered).toBeGreaterThan(200)
  })

  test('five digits that end are said to end', () => {
    const terms = {
      ...withTerm('first-register', entry('30001', 'five-digit'), entry('12000', 'protocol')),
    }
    expect(rowOf(terms, 'first-register').fixes[0]).toMatchObject({
      text: '312001',
      notation: 'six-digit',
      label: expect.stringMatching(/written 312001: five digits end at number 9999/),
    })
  })

  test('coils are counted in bits and read as bits', () => {
    const bits: HandshakeTerms = {
      ...agreeing,
      'function-code': { controller: entry('01'), device: entry('01') },
      'first-register': { controller: entry('11', 'protocol'), device: entry('00012', 'five-digit') },
      count: { controller: entry('2000'), device: entry('2000') },
      'data-type': { controller: entry('bool'), device: entry('bool') },
    }
    expect(rowOf(bits, 'count')).toMatchObject({ state: 'equal', ends: { device: { shown: '2000 bits' } } })
    expect(readPlanOf(bits, 'device')).toMatchObject({
      ok: true,
      value: { request: { code: 1, address: 11, count: 2000 }, format: { type: 'bool' } },
    })
    expect(rowOf({ ...bits, count: { controller: entry('2001') } }, 'count').state).toBe('refused')
    const number = { ...bits, 'data-type': { controller: entry('float32'), device: entry('float32') } }
    expect(rowOf(number, 'data-type')).toMatchObject({
      state: 'at-odds',
      remark: 'A coil is one bit; float 32 is made of registers.',
    })
    expect(readPlanOf(number, 'device')).toMatchObject({ ok: false, refusal: { gaps: [{ term: 'data-type' }] } })
    const sixteen = { ...bits, count: { device: entry('15') }, 'data-type': { device: entry('bits16') } }
    expect(readPlanOf(sixteen, 'device')).toMatchObject({ ok: false, refusal: { gaps: [{ term: 'count' }] } })
  })

  test('names of JavaScript are no data types', () => {
    for (const text of ['constructor', '__proto__', 'toString', 'valueOf']) {
      expect(rowOf(withTerm('data-type', entry(text), entry('float32')), 'data-type').state).toBe('refused')
    }
  })

  test('one mask shorter than the other: each direction by its own mask', () => {
    const far = withTerm('mask', entry('255.255.0.0'), entry('255.255.255.0'))
    // Both on .40: each still takes the other for a neighbour.
    expect(rowOf(far, 'mask')).toMatchObject({ state: 'fits' })
    const oneWay = claspOf({ ...context(far), controllerAddress: '10.20.7.10' }).rows.find((row) => row.id === 'mask')
    expect(oneWay).toMatchObject({ state: 'at-odds', remark: expect.stringMatching(/cannot answer straight back/) })
  })

  test('a type that needs more registers than both ends say', () => {
    const terms = { ...agreeing, count: { controller: entry('1'), device: entry('1') } }
    expect(rowOf(terms, 'count')).toMatchObject({
      state: 'at-odds',
      remark: expect.stringMatching(/takes 2 registers/),
    })
  })

  test('a blank end is not known, never agreed', () => {
    expect(rowOf(withTerm('word-order', undefined, entry('ABCD')), 'word-order').state).toBe('unknown')
    expect(rowOf(withTerm('word-order', entry(' '), entry('ABCD')), 'word-order').state).toBe('unknown')
  })

  test.each<[TermId, string, string]>([
    ['address', '10.20.40.256', 'ipv4.octet-too-large'],
    ['address', '10.20.40.50:502', 'ipv4.attached'],
    ['mask', '255.255.255.256', 'mask.not-a-mask'],
    ['port', '70000', 'number.tcp-port.range'],
    ['unit-id', '248', 'number.unit-id.range'],
    ['count', '126', 'number.count.range'],
    ['function-code', '16', 'term.function-code'],
    ['first-register', '5x100', 'reference.form'],
    ['data-type', 'complex', 'term.data-type'],
    ['word-order', 'ACBD', 'term.word-order'],
    ['scale', '0,1', 'decimal.marks'],
    ['scale', '0', 'term.scale-zero'],
  ])('%s %j cannot be read (%s) and stays on the screen', (id, text, code) => {
    const row = rowOf(withTerm(id, entry(text), agreeing[id]?.device), id)
    expect(row.state).toBe('refused')
    expect(row.ends.controller).toMatchObject({ state: 'refused', entry: { text }, refusal: { code } })
  })
})

describe('how an end would read the value', () => {
  test('from its own terms', () => {
    const plan = readPlanOf(agreeing, 'device')
    expect(plan).toMatchObject({
      ok: true,
      value: {
        way: { protocol: 'modbus-tcp', port: 502, unit: 1 },
        request: { code: 4, address: 0, count: 2 },
        format: { type: 'float32', order: 'ABCD' },
        scale: 1,
      },
    })
  })
  test('or which terms are missing', () => {
    const plan = readPlanOf(withTerm('count', entry('126'), undefined), 'device')
    expect(plan).toMatchObject({ ok: false, refusal: { gaps: [{ term: 'count', what: 'Count is blank.' }] } })
  })
})
