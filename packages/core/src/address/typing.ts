/** Rows of keys: digits stand in a row above the letters, and three by three on a keypad. */
const KEYPAD: Readonly<Record<string, string>> = {
  '0': '12',
  '1': '024',
  '2': '0135',
  '3': '26',
  '4': '157',
  '5': '2468',
  '6': '359',
  '7': '48',
  '8': '579',
  '9': '68',
}
const DIGIT_ROW = '1234567890'

/** Whether two digits lie beside each other on the digit row or on a keypad. */
function neighbours(a: string, b: string): boolean {
  const [i, j] = [DIGIT_ROW.indexOf(a), DIGIT_ROW.indexOf(b)]
  return (i >= 0 && j >= 0 && Math.abs(i - j) === 1) || (KEYPAD[a]?.includes(b) ?? false)
}

/**
 * How far two numbers are apart for somebody who types: a digit left out, put in, exchanged with the next one or hit
 * on the neighbouring key counts 1, any other digit 2.
 * @source Damerau 1964 (the four single slips), keys from memory
 * @example slipsBetween('127', '172') // 1: exchanged
 */
export function slipsBetween(a: string, b: string): number {
  const rows: number[][] = [Array.from({ length: b.length + 1 }, (_, j) => j)]
  const at = (i: number, j: number) => rows[i]?.[j] ?? Infinity
  for (let i = 1; i <= a.length; i += 1) {
    const row = [i]
    rows.push(row)
    for (let j = 1; j <= b.length; j += 1) {
      const [x = '', y = ''] = [a[i - 1], b[j - 1]]
      const replaced = x === y ? 0 : neighbours(x, y) ? 1 : 2
      let best = Math.min(at(i - 1, j) + 1, (row[j - 1] ?? Infinity) + 1, at(i - 1, j - 1) + replaced)
      if (i > 1 && j > 1 && x === b[j - 2] && a[i - 2] === y) best = Math.min(best, at(i - 2, j - 2) + 1)
      row[j] = best
    }
  }
  return at(a.length, b.length)
}
