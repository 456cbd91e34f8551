import { mirrored, readMirror } from '.'

const shows = (text: string, ...values: number[]) => {
  const mirror = readMirror(text)
  if (!mirror.ok) throw new Error(mirror.refusal.what)
  const read = mirrored(mirror.value, values)
  return read.ok ? read.value : read.refusal.what
}

test.each<[string, number[], string]>([
  ['40021', [9600], '9600'],
  ['40021 int16 x0.1', [1.5], '1.5'],
  // 10.20.40.50 is 0x0A142832: 10·2^24 + 20·2^16 + 40·2^8 + 50, worked out by hand.
  ['40021 ipv4', [169_093_170], '10.20.40.50'],
  ['40021: 0 = 9600 8N1, 1 = 9600 8E1', [1], '9600 8E1'],
  ['40021: 3 = 9600, 4 = 19200; 40022: 0 = 8N1, 2 = 8E1', [4, 2], '19200 8E1'],
  ['40021: -1 = none', [-1], 'none'],
  ['40021: 0 = 9600 8N1', [7], '40021 shows 7, and nothing says what that means.'],
  ['40021; 40022', [1], '40022 was not read.'],
])('%s with %j shows %s', (text, values, said) => {
  expect(shows(text, ...values)).toBe(said)
})

test('type, order and factor go into the place', () => {
  const read = readMirror('30011 float32 x10 low word first')
  expect(read.ok && read.value[0]?.place).toEqual({ register: '30011', type: 'float32', order: 'CDAB', scale: 10 })
})

test.each<[string, string]>([
  ['', 'No register is said.'],
  ['40021;', 'No register is said.'],
  ['40021 wide', '"wide" says neither a type nor a factor.'],
  ['40021 x0', '"x0" says neither a type nor a factor.'],
  ['40021: 9600', '"9600" does not say what a number means.'],
  ['40021: 1 = a, 1 = b', '1 has two meanings.'],
  ['40021 x2: 1 = a', 'A register has a factor or meanings, not both.'],
])('%j is refused', (text, what) => {
  expect(readMirror(text)).toMatchObject({ ok: false, refusal: { what } })
})

test('a register that is none is refused with the reason of registers', () => {
  expect(readMirror('forty')).toMatchObject({ ok: false })
})
