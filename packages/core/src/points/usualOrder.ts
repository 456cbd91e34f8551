import type { Handshake } from '../job'
import { byteOrders, type ByteOrder } from '../values'

/** The order that a device's further values most likely have: its terms say one, or its points; else high word first. */
export function usualOrder({ terms, points }: Pick<Handshake, 'terms' | 'points'>): ByteOrder {
  const said = terms.find(({ termId, end }) => termId === 'word-order' && end === 'device')?.text.trim() ?? ''
  if (Object.hasOwn(byteOrders, said)) return said as ByteOrder
  return points.find(({ source }) => source !== null)?.source?.order ?? 'ABCD'
}
