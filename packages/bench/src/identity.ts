import type { Answer, IdentificationObject, ModbusRequest } from '@calm/core/modbus'

/** Answers FC 43/14 from a list of objects, basic ones first. All of ours fit into one answer. */
export function answerIdentity(
  objects: readonly IdentificationObject[],
  request: Extract<ModbusRequest, { code: 43 }>,
): Answer {
  const conformity = 0x82
  if (request.category === 'one-object') {
    const one = objects.find((object) => object.id === request.object)
    return one ? { conformity, objects: [one] } : { exception: 2 }
  }
  const highest = request.category === 'basic' ? 2 : 0x7f
  return { conformity, objects: objects.filter((object) => object.id >= request.object && object.id <= highest) }
}

/** What a stand-in says of itself. @param what in words, for example `Flow meter` */
export const standInIdentity = (
  tag: string,
  what: string,
  { model, firmware }: { readonly model: string; readonly firmware: string },
): readonly IdentificationObject[] => [
  { id: 0, text: 'Sample maker' },
  { id: 1, text: model },
  { id: 2, text: firmware },
  { id: 4, text: `${what} (stand-in)` },
  { id: 5, text: tag },
]

/** The flow and energy meters that stand behind a gateway. */
export const METER_BEHIND = { model: 'FM-2', firmware: '1.0' } as const
