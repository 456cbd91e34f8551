import { execFileSync } from 'node:child_process'
import { dice } from '../explain/fixtures'
import { byteOrders, dataTypes, decodeValue, encodeValue, registersOf, type ByteOrder, type DataType } from '.'

// Beside Python's struct, which reads bytes by its own rules: https://docs.python.org/3/library/struct.html
const script = `
import json, struct, sys
codes = {'uint8-high': ('B', 0), 'uint8-low': ('B', 1), 'int8-high': ('b', 0), 'int8-low': ('b', 1),
  'uint16': ('H', 0), 'int16': ('h', 0), 'uint32': ('I', 0), 'int32': ('i', 0), 'uint64': ('Q', 0), 'int64': ('q', 0),
  'float32': ('f', 0), 'float64': ('d', 0)}
def put_right(words, order):
  halves = order.endswith('-halves')
  name = order.split('-')[0]
  little = name in ('BADC', 'DCBA')
  data = [struct.pack('<H' if little else '>H', word) for word in words]
  if name in ('CDAB', 'DCBA'):
    if halves and len(data) == 4: data = data[1::-1] + data[:1:-1]
    else: data.reverse()
  return b''.join(data)
out = []
for type, order, words in json.load(sys.stdin):
  code, at = codes[type]
  value = struct.unpack_from('>' + code, put_right(words, order), at)[0]
  out.append(value.hex() if isinstance(value, float) else str(value))
json.dump(out, sys.stdout)
`
const types = (Object.keys(dataTypes) as DataType[]).filter((type) => !/^(bool|bits|bcd|ascii)/.test(type))

/** As Python writes a float, so that every bit of it counts. */
function sameNumber(ours: number | bigint, theirs: string): boolean {
  if (typeof ours === 'bigint' || /^-?\d+$/.test(theirs)) return BigInt(ours) === BigInt(theirs)
  if (theirs === 'nan') return Number.isNaN(ours)
  if (theirs.endsWith('inf')) return ours === (theirs.startsWith('-') ? -Infinity : Infinity)
  const [, sign, whole = '', fraction = '', exponent] = /^(-?)0x(\d)\.?([0-9a-f]*)p([+-]\d+)$/.exec(theirs) ?? []
  const mantissa = Number(BigInt(`0x${whole}${fraction}`))
  return Object.is(ours, (sign === '-' ? -1 : 1) * mantissa * 2 ** (Number(exponent) - 4 * fraction.length))
}

test('6 000 random registers, every type and order, read as Python’s struct reads them, and written back', () => {
  const roll = dice(2027)
  const cases = Array.from({ length: 6000 }, (_, k): readonly [DataType, ByteOrder, readonly number[]] => {
    const type = types[k % types.length] as DataType
    const order = roll.pick(Object.keys(byteOrders) as ByteOrder[])
    const edge = () => roll.pick([0, 0x7f80, 0x7fc0, 0x8000, 0xff80, 0xffff, 1])
    const words = Array.from({ length: registersOf({ type, order }) }, () =>
      roll.next() < 0.15 ? edge() : roll.below(65_536),
    )
    return [type, order, words]
  })
  const theirs: readonly string[] = JSON.parse(
    execFileSync('python3', ['-c', script], { input: JSON.stringify(cases), encoding: 'utf8' }),
  )
  expect(theirs).toHaveLength(cases.length)
  const wrong: string[] = []
  cases.forEach(([type, order, words], k) => {
    const read = decodeValue(words, { type, order })
    const value =
      read.ok && (read.value.kind === 'number' || read.value.kind === 'whole') ? read.value.value : undefined
    const python = theirs[k] as string
    const say = (text: string) => wrong.push(`${type} ${order} ${words.join(' ')}: ${text}`)
    if (value === undefined || !sameNumber(value, python)) say(`${value} here, ${python} there`)
    if (!read.ok || Number.isNaN(Number(value))) return
    const back = encodeValue(read.value, { type, order }, words)
    if (!back.ok || back.value.join() !== words.join())
      say(`written back as ${back.ok ? back.value.join(' ') : 'nothing'}`)
  })
  expect(wrong).toEqual([])
  expect(new Set(cases.map(([type, order]) => `${type} ${order}`)).size).toBe(types.length * 6)
})
