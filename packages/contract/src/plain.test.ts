import { duplicateKeys } from './duplicateKeys'
import { textProblems } from './plain'

describe('texts that no request may carry', () => {
  const where = (content: unknown) => textProblems(content).map((problem) => `${problem.where} ${problem.found}`)
  test.each<[unknown, readonly string[]]>([
    [{ a: 'fine', b: ['fine', { c: 'tab\tand\r\nlines' }] }, []],
    [{ a: 'x\u0000' }, ['a U+0000']],
    [{ a: [1, { b: 'x\u007f' }] }, ['a[1].b U+007F']],
    ['\ud83d', [' U+D83D']],
    ['\ude00x', [' U+DE00']],
    ['🔧', []],
    [{ 'a\u0001b': 1 }, [' U+0001']],
    [JSON.parse('{"x":{"__proto__":1}}'), ['x __proto__']],
    [{ constructor: 1, prototype: 2 }, [' constructor', ' prototype']],
    [
      [{ prototype: 1 }, { prototype: 2 }],
      ['[1] prototype', '[0] prototype'],
    ],
    [null, []],
    [7, []],
  ])('%j: %j', (content, expected) => expect(where(content)).toEqual(expected))

  test('nesting ends at forty, without ending the program', () => {
    const nested = (depth: number) => JSON.parse('['.repeat(depth) + ']'.repeat(depth)) as unknown
    expect(textProblems(nested(40))).toEqual([])
    expect(textProblems(nested(41))).toMatchObject([{ what: 'This is nested too deeply.' }])
    let deep: unknown = 'x'
    for (let k = 0; k < 200_000; k += 1) deep = { a: deep }
    expect(textProblems(deep)).toHaveLength(1)
  })
})

describe('a field that stands twice', () => {
  test.each<[string, readonly string[]]>([
    ['{"a":1,"b":2}', []],
    ['{"a":1,"a":2}', ['a']],
    ['{"x":[{"a":1},{"a":1,"b":{"c":1,"c":2}}]}', ['x[1].b.c']],
    ['{"a":"{\\"a\\":1,\\"a\\":2}"}', []],
    ['{"a":{"a":{"a":1}}}', []],
    ['[{"a":1},{"a":1}]', []],
    ['{"a" : 1, "\\u0061" : 2}', ['a']],
    ['{"a":["a","a",":"],"b":"a"}', []],
  ])('%s: %j', (text, expected) => {
    expect(() => JSON.parse(text) as unknown).not.toThrow()
    expect(duplicateKeys(text).map((problem) => problem.where)).toEqual(expected)
  })
})
