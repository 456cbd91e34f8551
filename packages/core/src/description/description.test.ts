import { spawnSync } from 'node:child_process'
import fc from 'fast-check'
import { kindFacts } from '../kind'
import { canFile, cipFile, gsdFile } from './fixtures'
import { lengthsOf } from './identifierBytes'
import { readSections } from './sections'
import { kindOfDescription, MOST_BYTES, readDescription, termsOfDescription } from '.'

const read = (text: string) => {
  const made = readDescription(text)
  if (!made.ok) throw new Error(JSON.stringify(made.refusal))
  return made.value
}
const told = (text: string) => {
  const made = readDescription(text)
  return made.ok ? [] : made.refusal.map(({ line, what }) => `${line}: ${what}`)
}

describe('the three formats, by samples of our own', () => {
  test('an EDS of a CIP device: sizes of its assemblies, the interval of its parameter, a mark between quotes', () => {
    expect(read(cipFile)).toMatchObject({
      format: 'cip',
      product: 'Remote I/O, 16 in; 16 out',
      orderCode: 'RIO-16',
      revision: '2.10',
      fileRevision: '1.2',
      identity: 'vendor 65000, type 12, product 1204',
      inputBytes: 4,
      outputBytes: 6,
      configBytes: 10,
      fastestMs: 10,
      remarks: [],
    })
  })

  test('an EDS by CiA 306: revision of two halves, rates, and the bits of its mappings', () => {
    expect(read(canFile)).toMatchObject({
      format: 'can',
      product: 'Bus coupler',
      orderCode: 'CO-8',
      revision: '1.3',
      fileRevision: '1.4',
      rates: [125_000, 250_000, 500_000, 1_000_000],
      nodes: [1, 127],
      // 8 bits out; 8 and 16 bits in.
      outputBytes: 1,
      inputBytes: 3,
    })
    const dcf = `${canFile}[DeviceComissioning]\nNodeID=0x0C\nBaudrate=250\n`
    expect(read(dcf)).toMatchObject({ node: 12, rates: [250_000] })
  })

  test('a GSD: rates, the most that it carries, modules by their identifier bytes, a line that goes on', () => {
    expect(read(gsdFile)).toMatchObject({
      format: 'type-3',
      product: 'Head; with modules',
      revision: '1.4',
      identity: 'ident number 0x0B0C',
      rates: [9600, 187_500, 1_500_000],
      inputBytes: 64,
      outputBytes: 48,
      configBytes: 5,
      isModular: true,
      mostModules: 8,
      fastestMs: 0.6,
      modules: [
        { name: '8 inputs', inputBytes: 1, outputBytes: 0 },
        // 51h: two words in, 61h: two words out. Two words each.
        { name: '2 analog in, 2 out', inputBytes: 4, outputBytes: 4 },
        // C1h: out and in, one byte of the maker's; 03h four bytes out, 05h six bytes in.
        { name: 'Counter', inputBytes: 6, outputBytes: 4 },
      ],
    })
  })

  // Python's configparser reads the same sections: a general-purpose library, run side by side.
  test('sections and values as Python’s configparser reads them', () => {
    const script = `import configparser, json, sys
c = configparser.RawConfigParser(comment_prefixes=(';',), inline_comment_prefixes=(';',), strict=False)
c.read_string(sys.stdin.read())
print(json.dumps({s.lower(): dict(c.items(s)) for s in c.sections()}))`
    const run = spawnSync('python3', ['-c', script], { input: canFile, encoding: 'utf8' })
    expect(run.stderr).toBe('')
    const ours = Object.fromEntries(
      [...readSections(canFile, { comment: ';', ends: '' }).sections].map(([name, { entries }]) => [
        name,
        Object.fromEntries([...entries].map(([key, { value }]) => [key, value])),
      ]),
    )
    expect(ours).toEqual(JSON.parse(run.stdout))
    expect(Object.keys(ours)).toHaveLength(7)
  })
})

describe('identifier bytes', () => {
  interface Part {
    readonly bytes: readonly number[]
    readonly inputs: number
    readonly outputs: number
  }
  const units = fc.boolean()
  const direction = fc.constantFrom('in', 'out', 'both')
  /** Written by what a module should carry, not by taking bytes apart. */
  const plain = fc
    .record({ direction, words: units, count: fc.integer({ min: 1, max: 16 }) })
    .map(({ direction: way, words, count }): Part => {
      const size = count * (words ? 2 : 1)
      const code = { in: 0x10, out: 0x20, both: 0x30 }[way]
      return {
        bytes: [code | (words ? 0x40 : 0) | (count - 1)],
        inputs: way === 'out' ? 0 : size,
        outputs: way === 'in' ? 0 : size,
      }
    })
  const side = fc.option(fc.record({ words: units, count: fc.integer({ min: 1, max: 64 }) }))
  const special = fc
    .record({ outs: side, ins: side, makers: fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 14 }) })
    .map(({ outs, ins, makers }): Part => {
      const lengths = [outs, ins].flatMap((each) => (each ? [(each.words ? 0x40 : 0) | (each.count - 1)] : []))
      const size = (each: typeof outs) => (each ? each.count * (each.words ? 2 : 1) : 0)
      return {
        bytes: [(outs ? 0x80 : 0) | (ins ? 0x40 : 0) | makers.length, ...lengths, ...makers],
        inputs: size(ins),
        outputs: size(outs),
      }
    })

  test('any row of them carries the sum of its parts', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(plain, special), { maxLength: 8 }), (all) => {
        expect(lengthsOf(all.flatMap(({ bytes }) => bytes))).toEqual({
          inputBytes: all.reduce((sum, { inputs }) => sum + inputs, 0),
          outputBytes: all.reduce((sum, { outputs }) => sum + outputs, 0),
        })
      }),
      { numRuns: 500 },
    )
  })

  test('one that ends too early is not read', () => {
    expect(lengthsOf([0xc1, 0x03])).toBeUndefined()
    expect(lengthsOf([0x42, 0x03, 0x00])).toBeUndefined()
  })
})

describe('what cannot be taken, with its line', () => {
  test.each<[string, string, RegExp]>([
    ['nothing', '  \n', /1: The file is empty/],
    ['another file', '{"format": 1}', /known here/],
    ['too large', 'x'.repeat(MOST_BYTES + 1), /2048 kB/],
    ['a picture', `[DeviceInfo]\nVendorName=\u0000\u0001`, /2: Line 2: a sign that no text has/],
    ['a line that is none', canFile.replace('FileVersion=1', 'FileVersion 1'), /3: Line 3: this is neither/],
    ['a value before any section', `Vendor=1\n${canFile}`, /1: Line 1: a value stands before/],
    [
      'a value without its end',
      cipFile.replace('"20 04 24 66 2C 65 2C 64";', '"20 04"'),
      /21: Line 21: Connection1 has no end/,
    ],
    ['a module that has no end', gsdFile.replace(/EndModule\n$/, ''), /28: Line 28: Module has no end/],
    ['identifier bytes that end too early', gsdFile.replace(', 0x77', ''), /28: Line 28: the identifier bytes/],
    [
      'an end without a beginning',
      gsdFile.replace('Module = "8 inputs" 0x10', 'Other = 1'),
      /25: Line 25: EndModule has no beginning|25: Line 25/,
    ],
  ])('%s', (_what, text, line) => expect(told(text).join('\n')).toMatch(line))

  test('the first of a repeated section or keyword counts, and it is told', () => {
    const twice = `${canFile}[DeviceInfo]\nVendorName=Other\n`
    expect(read(twice)).toMatchObject({
      vendor: 'Sample',
      remarks: [{ line: 27, what: 'Section [DeviceInfo] stands twice; the one of line 5 counts.' }],
    })
    const word = gsdFile.replace('GSD_Revision = 3', 'GSD_Revision = 3\nGSD_Revision = 4')
    expect(read(word)).toMatchObject({
      fileRevision: '3',
      remarks: [{ line: 4, what: 'GSD_Revision stands twice; the one of line 3 counts.' }],
    })
    expect(read(canFile.replace('FileRevision=4', 'FileRevision=4\nFileRevision=5'))).toMatchObject({
      fileRevision: '1.4',
      remarks: [{ line: 5 }],
    })
  })

  test('whatever the file, it is read or told with a line of it; nothing is thrown', () => {
    const samples = [cipFile, canFile, gsdFile]
    fc.assert(
      fc.property(
        fc.constantFrom(...samples),
        fc.nat(1200),
        fc.nat(40),
        fc.string({ maxLength: 12 }),
        (text, at, gone, put) => {
          const made = readDescription(text.slice(0, at) + put + text.slice(at + gone))
          if (!made.ok) {
            expect(made.refusal.length).toBeGreaterThan(0)
            for (const { line, expected } of made.refusal) expect([line >= 1, expected !== '']).toEqual([true, true])
          }
        },
      ),
      { numRuns: 600 },
    )
  })
})

describe('what follows from it', () => {
  test('sizes of a fixed device are terms, those of a modular one are its most and no terms', () => {
    expect(termsOfDescription(read(cipFile))).toEqual({
      'input-size': '4 bytes',
      'output-size': '6 bytes',
      'config-size': '10 bytes',
      'update-interval': '10 ms',
    })
    expect(termsOfDescription(read(gsdFile))).toEqual({ 'config-size': '5 bytes' })
  })

  test('a kind like another one, with family, limits, modules and revision of the file', () => {
    const like = kindFacts('remote-io', [])
    const kind = kindOfDescription(read(gsdFile), like, 'own-head', 'Head')
    expect(kind).toMatchObject({
      id: 'own-head',
      role: 'io',
      defaultNode: { family: 'decimal-0-125' },
      describedBy: { revision: '1.4', rates: [9600, 187_500, 1_500_000], modules: [{ name: '8 inputs' }, {}, {}] },
    })
    expect(kind.lamps).toBe(like.lamps)
  })
})
