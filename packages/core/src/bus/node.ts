import { ok, refusal, type Brand, type Result } from '../units'
import type { NodeFamily } from './family'

/** The number of a node on a bus, whatever base it is written in. */
export type BusNode = Brand<number, 'BusNode'>

/** @example formatNode(63, octal) // '77'; formatNode(8, octal) // '10' */
export function formatNode(node: BusNode, family: NodeFamily): string {
  return node.toString(family.base).padStart(family.digits, '0')
}

/** The node as it is written, with the decimal number beside it where that differs. */
export function describeNode(node: BusNode, family: NodeFamily): string {
  const text = formatNode(node, family)
  return family.base === 10 ? text : `${text} (decimal ${node})`
}

/** The range as it is written in the family's own base. */
export function rangeText(family: NodeFamily): string {
  return `${family.first.toString(family.base)} to ${family.last.toString(family.base)}${family.base === 8 ? ' octal' : ''}`
}

/**
 * Reads a node as it is written on the switches. An octal node with an 8 or a 9 is refused, with the octal writing of
 * that decimal number as the likely reading.
 *
 * @example parseNode('18', octal) // refused, offers 22: decimal 18 is 22 octal
 */
export function parseNode(text: string, family: NodeFamily): Result<BusNode> {
  const typed = text.trim()
  const expected = `a node from ${rangeText(family)}`
  if (typed === '') return refusal('node.blank', 'The node is blank.', 'nothing', expected)
  if (!/^\d{1,4}$/.test(typed)) return refusal('node.form', `"${typed}" is not a node.`, typed, expected)
  if (family.base === 8 && /[89]/.test(typed)) {
    const value = Number(typed)
    const fits = value >= family.first && value <= family.last
    const octal = value.toString(8).padStart(family.digits, '0')
    return refusal(
      'node.not-octal',
      `${typed} has an ${typed.includes('8') ? 8 : 9}; octal digits end at 7.`,
      typed,
      expected,
      fits ? [{ label: `Use ${octal}, which is decimal ${value}`, value: octal }] : [],
    )
  }
  const value = parseInt(typed, family.base)
  if (value < family.first || value > family.last) {
    return refusal('node.range', `Node ${typed} is outside ${rangeText(family)}.`, typed, expected)
  }
  const kept = family.kept.find((each) => each.node === value)
  if (kept) return refusal('node.kept', `Node ${typed} is ${kept.use}.`, typed, expected)
  return ok(value as BusNode)
}
