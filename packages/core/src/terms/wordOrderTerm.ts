import { always, speaksModbus } from './applying'
import { ok, refusal } from '../units'
import { byteOrders, dataTypes, decodeValue, encodeValue, formatRaw, type ByteOrder, type DataType } from '../values'
import { dataTypeAt } from './dataTypeAt'
import { takeOver } from './fixes'
import type { TermContext, TermDefinition } from './term'

export const wordOrderTerm: TermDefinition<ByteOrder> = {
  id: 'word-order',
  name: 'Word order',
  group: 'words',
  relation: 'equal',
  why: 'The words change places: a number that is far off.',
  severity: 'wrong',
  applies: speaksModbus,
  asked: always,
  explain: 'In which order the registers of one value travel. A is the highest byte, D the lowest.',
  example: 'ABCD',
  choices: (['ABCD', 'CDAB', 'BADC', 'DCBA'] as const).map((order) => ({
    text: order,
    label: `${order}, ${byteOrders[order].name}`,
  })),
  parse: (entry) => {
    const typed = entry.text.trim().toUpperCase()
    const known = (Object.keys(byteOrders) as ByteOrder[]).find((order) => order.toUpperCase() === typed)
    return known
      ? ok(known)
      : refusal(
          'term.word-order',
          `"${entry.text.trim()}" is not a word order.`,
          entry.text,
          'ABCD, CDAB, BADC or DCBA',
        )
  },
  format: (order) => order,
  agree: (controller, device, context) => {
    if (controller === device) return { state: 'equal' }
    const type = dataTypeAt(context.terms, 'device')
    if (
      type &&
      dataTypes[type].registers === 1 &&
      byteOrders[controller].bytesSwapped === byteOrders[device].bytesSwapped
    ) {
      return { state: 'fits', remark: 'One register only: the order of words does not matter' }
    }
    return {
      state: 'at-odds',
      why: `${context.tags.device} sends ${byteOrders[device].name}; ${context.tags.controller} takes it as ${byteOrders[controller].name}.${consequence(controller, device, type, context)}`,
      fixes: takeOver('word-order', 'The word order', context, {
        controller,
        device,
      }),
    }
  },
  source: 'common practice, no source: the standard leaves the order of words open (V1.1b3, 4.2)',
}

/** What a sample value would become, in numbers. */
function consequence(
  controller: ByteOrder,
  device: ByteOrder,
  type: DataType | undefined,
  context: TermContext,
): string {
  if (context.sample === undefined || !type) return ''
  const words = encodeValue({ kind: 'number', value: context.sample }, { type, order: device })
  const read = words.ok ? decodeValue(words.value, { type, order: controller }) : undefined
  return read?.ok ? ` ${context.sample} would read as ${formatRaw(read.value)}.` : ''
}
