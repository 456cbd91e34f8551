import { instant } from '../units'
import { judgedAgain, sayEvidence, sayEvidenceInFull, textFact, type EvidenceFact } from '.'

const at = new Date(2026, 10, 28, 9, 30, 5).getTime()
const reading = (place: string, value: number | null, more: Partial<Extract<EvidenceFact, { kind: 'reading' }>> = {}) =>
  ({
    kind: 'reading',
    place,
    source: 'live',
    value,
    words: null,
    at,
    asked: '10.20.40.50:502',
    request: '',
    answer: '',
    milliseconds: 4,
    ...more,
  }) satisfies EvidenceFact
const point: EvidenceFact = { kind: 'point', tag: 'U1', quantity: 'Voltage', unit: 'V', decimals: 1 }
const reference: EvidenceFact = {
  kind: 'reference',
  value: 230,
  origin: '',
  tolerance: { kind: 'absolute', amount: 1 },
}
// 230.5 as float32 is 4366 8000 by IEEE 754, high word first.
const words = [0x4366, 0x8000]
const format = { type: 'float32', order: 'ABCD' } as const

describe('what is recorded', () => {
  test('facts of a reading make its sentence, and are judged again as they were', () => {
    const facts = [
      point,
      reading('EM', 230.5, { words, format }),
      reading('PLC', 230.5, { at: at + 1500 }),
      reading('Screen', 230.4, { source: 'typed' }),
      reference,
    ]
    expect(judgedAgain(facts)).toMatchObject({ verdict: 'proven', apart: 1500 })
    expect(sayEvidence(facts)).toBe(
      'Voltage: EM 230.5 V, PLC 230.5 V, Screen 230.4 V (typed); reference 230.0 V ± 1 V. All 3 hops show the reference within ± 1 V.',
    )
    expect(sayEvidenceInFull(facts)).toEqual([
      'EM: 230.5 V words 4366 8000, read live at 09:30:05',
      'PLC: 230.5 V, read live at 09:30:06',
      'Screen: 230.4 V, typed at 09:30:05',
      'reference 230.0 V, origin not named',
      '1.5 s between the earliest and the latest',
    ])
  })

  test('held against another tolerance the same facts come out otherwise', () => {
    const narrow: EvidenceFact = { ...reference, tolerance: { kind: 'absolute', amount: 0.1 } }
    expect(judgedAgain([point, reading('EM', 230.5), narrow])?.verdict).toBe('at-odds')
  })

  test('where nothing was read, or there is no reference, nothing is judged', () => {
    expect(judgedAgain([point, reading('EM', 230.5)])).toBeUndefined()
    expect(judgedAgain([reference])).toBeUndefined()
    expect(sayEvidence([point, reading('EM', null)])).toBe('Voltage: EM no value.')
  })

  test.each<[string, readonly EvidenceFact[], string, readonly string[]]>([
    [
      'words of a person',
      [textFact('All lamps as drawn'), textFact('at Q14')],
      'All lamps as drawn',
      ['All lamps as drawn', 'at Q14'],
    ],
    [
      'a device that answered',
      [
        { kind: 'asked', at: '10.20.40.50:502, unit 1', answered: true },
        { kind: 'step', step: 'Connection', ok: true, what: 'The port took the connection.' },
        { kind: 'identity', name: 'vendor name', text: 'Sample maker' },
      ],
      'Answered at 10.20.40.50:502, unit 1: vendor name Sample maker.',
      ['asked at 10.20.40.50:502, unit 1', 'Connection: The port took the connection.', 'vendor name: Sample maker'],
    ],
    [
      'one that did not',
      [
        { kind: 'asked', at: '', answered: false },
        { kind: 'step', step: 'Plan', ok: false, what: 'Address is blank.' },
      ],
      'Not reached at its planned address: Address is blank.',
      ['Plan: Address is blank.'],
    ],
    [
      'terms',
      [
        { kind: 'term', term: 'Port', controller: '502', device: '502', state: 'equal' },
        { kind: 'term', term: 'Unit id', controller: '1', device: '1', state: 'equal' },
      ],
      'All 2 terms agree and are in force at both ends.',
      ['Port: equal', 'Unit id: equal'],
    ],
    ['a lamp', [{ kind: 'lamp', lamp: 'NS', pattern: 'steady green' }], 'NS: steady green', ['NS: steady green']],
    [
      'a file',
      [{ kind: 'file', name: 'plc.backup', bytes: 12, sha256: 'ab12' }],
      'plc.backup, 12 bytes, SHA-256 ab12',
      ['plc.backup, 12 bytes, SHA-256 ab12'],
    ],
    [
      'a measurement',
      [{ kind: 'quantity', name: 'Bus voltage', value: 24.1, unit: 'V', instrument: 'handheld meter' }],
      'Bus voltage: 24.1 V, by handheld meter',
      ['Bus voltage: 24.1 V, by handheld meter'],
    ],
    ['nothing', [], '', []],
  ])('%s', (_what, facts, sentence, lines) => {
    expect(sayEvidence(facts)).toBe(sentence)
    expect(sayEvidenceInFull(facts)).toEqual(lines)
  })

  test('the moment of an observation is an instant, whatever the fact kept it as', () => {
    expect(judgedAgain([point, reading('EM', 230), reference])?.hops[0]?.observation.seen).toBe(instant(at))
  })
})
