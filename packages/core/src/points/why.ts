import type { Expectation, Question, RankedExplanation, Sample } from '../explain'
import type { Point, Source } from '../job'
import { formatReference, protocolAddress } from '../modbus'
import { allowedDifference } from '../values'
import type { PointPlace } from './place'

/** What a point asks of its own reference; `undefined` where it has none. */
export const expectedOf = (point: Point): Expectation | undefined =>
  point.reference
    ? {
        kind: 'about',
        value: point.reference.value,
        allowed: allowedDifference(point.tolerance, point.reference.value),
      }
    : undefined

/** The question of one point, for the registers that were seen around it. */
export const questionOf = (
  point: Point,
  { plan, address }: PointPlace,
  first: number,
  samples: readonly Sample[],
  expect: Expectation | undefined,
): Question => ({
  first,
  samples,
  plan: { address, format: plan.format, scale: plan.scale, offset: plan.offset },
  expect,
  span:
    point.low !== null && point.high !== null && point.low < point.high
      ? { low: point.low, high: point.high }
      : undefined,
  unit: point.unit,
})

/** The place that an explanation gives a point: what is changed in the plan when it is accepted. */
export function placeBy(
  { shift, format, line }: RankedExplanation,
  { address, table }: PointPlace,
): Source | undefined {
  const at = address + shift
  if (at < 0) return undefined
  const five = formatReference(protocolAddress(at), 'five-digit', table)
  const written = five.ok ? five : formatReference(protocolAddress(at), 'six-digit', table)
  if (!written.ok) return undefined
  const bit = format.bit === undefined ? '' : `.${format.bit}`
  return {
    register: `${written.value}${bit}`,
    type: format.type,
    order: format.order,
    scale: line.scale,
    ...(line.offset === 0 ? {} : { offset: line.offset }),
  }
}
