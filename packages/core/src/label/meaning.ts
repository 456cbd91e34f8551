import { parseHardwareAddress } from '../identity'

/** What a code of a label may be. */
export type LabelField = 'mac' | 'serial-number' | 'order-code' | 'unit-code'

export const labelFields: Readonly<Record<LabelField, string>> = {
  mac: 'hardware address',
  'serial-number': 'serial number',
  'order-code': 'order code',
  'unit-code': 'code of the unit',
}

/** A code, or a part of one, with what it is taken for; `undefined` where nothing tells. */
export interface LabelReading {
  readonly text: string
  readonly field: LabelField | undefined
  /** Whether the label itself says what it is, or it is only of such a form. */
  readonly sure: boolean
}

interface Rule {
  readonly field: LabelField
  readonly is: RegExp
}

/**
 * Data identifiers before the text of a code.
 *
 * @source ANSI MH10.8.2, data identifiers: S serial number, 1P item identification by the supplier, 23S hardware
 * address; from memory
 */
const identifiers: readonly Rule[] = [
  { field: 'mac', is: /^23S(?=[0-9A-F]{12}$)/i },
  { field: 'order-code', is: /^1P(?=\S{3,}$)/ },
  { field: 'serial-number', is: /^S(?=[0-9A-Z]{5,}$)/ },
]

/** Words before a value, as labels and links have them. @source common practice, no source */
const words: readonly Rule[] = [
  { field: 'mac', is: /^(mac|mac[ -]?id|mac[ -]?addr(ess)?|ethernet|hw[ -]?addr(ess)?)$/i },
  { field: 'serial-number', is: /^(s\/?n|ser(ial)?([ -]?(no|number|nr))?\.?)$/i },
  {
    field: 'order-code',
    is: /^(p\/?n|part([ -]?(no|number))?|order([ -]?(code|no|number))?|art(icle)?([ -]?(no|nr))?|model|type)\.?$/i,
  },
  { field: 'unit-code', is: /^(ups[ -]?code|unit[ -]?code|code)$/i },
]

/** What is known of the device beforehand. */
export interface LabelPlan {
  readonly orderCode: string
  readonly serialNumber: string
}

const bare = (text: string) => text.replace(/[\s-]/g, '').toUpperCase()

/**
 * What a code says: its parts where it has several, each with what it is taken for. A hardware address is written in
 * one notation.
 */
export function readingsOf(text: string, plan: LabelPlan): readonly LabelReading[] {
  const pairs = pairsOf(text)
  return (pairs.length > 0 ? pairs : [readingOf(text.trim(), plan)]).filter((each) => each.text !== '')
}

/** "S/N: 1234; MAC=..." and links with a question: each value behind a word that is known. */
function pairsOf(text: string): readonly LabelReading[] {
  const parts = text.split(/[?&;,\n\r|]+|\s{2,}/)
  return parts.flatMap((part): readonly LabelReading[] => {
    const found = /^\s*([A-Za-z][A-Za-z/ .-]{0,15}?)\s*[:=]\s*(\S.*?)\s*$/.exec(part)
    const rule = found && words.find(({ is }) => is.test(found[1] ?? ''))
    if (!found || !rule) return []
    const value = decoded(found[2] ?? '')
    const mac = rule.field === 'mac' ? parseHardwareAddress(value) : undefined
    if (mac && !mac.ok) return [{ text: value, field: undefined, sure: false }]
    return [{ text: mac?.ok ? mac.value : value, field: rule.field, sure: true }]
  })
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}

function readingOf(text: string, plan: LabelPlan): LabelReading {
  const is = (field: LabelField | undefined, sure: boolean, value = text): LabelReading => ({
    text: value,
    field,
    sure,
  })
  // What the plan has already needs no guess.
  if (plan.orderCode !== '' && bare(text) === bare(plan.orderCode)) return is('order-code', true)
  if (plan.serialNumber !== '' && bare(text) === bare(plan.serialNumber)) return is('serial-number', true)
  for (const { field, is: before } of identifiers) {
    const value = text.replace(before, '')
    if (value === text) continue
    const mac = field === 'mac' ? parseHardwareAddress(value) : undefined
    if (!mac || mac.ok) return is(field, true, mac?.ok ? mac.value : value)
  }
  const mac = parseHardwareAddress(text)
  // Twelve plain figures may be anything; letters or pairs make a hardware address of it.
  if (mac.ok && (/[A-F]/i.test(text) || /[:.-]/.test(text)))
    return is('mac', !/^\d/.test(bare(text)) || /[:-]/.test(text), mac.value)
  if (/^[A-Z0-9]+(-[A-Z0-9]+)+$/i.test(text) && /[A-Z]/i.test(text)) return is('order-code', false)
  if (/^(?=.*\d)[A-Z0-9 ]{5,16}$/i.test(text)) return is('serial-number', false)
  return is(undefined, false)
}
