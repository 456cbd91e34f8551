import { parseIpv4 } from '@calm/core/address'
import { nodeFamily, parseNode } from '@calm/core/bus'
import { parseUnitId } from '@calm/core/modbus'
import { ok, refusal, type Result } from '@calm/core/units'

/** What fields of the line-up take. Blank is allowed where a plan may leave something open. */
export const readAddress = (text: string): Result<unknown> => (text.trim() === '' ? ok(null) : parseIpv4(text))

export const readUnit = (text: string): Result<unknown> => (text.trim() === '' ? ok(null) : parseUnitId(text, 'tcp'))

export const readTag = (text: string): Result<unknown> =>
  text.trim() === '' ? refusal('tag.blank', 'The tag is blank.', 'nothing', 'a tag such as EM-501') : ok(text.trim())

export const readLine = (text: string): Result<unknown> =>
  text.length > 120
    ? refusal('line.long', `This has ${text.length} characters.`, `${text.length}`, 'at most 120')
    : ok(text)

/** What a field for a node takes: the node as it is written on its line, or blank while it is not planned. */
export const readNodeOn =
  (family: string) =>
  (text: string): Result<number | null> =>
    text.trim() === '' ? ok(null) : parseNode(text, nodeFamily(family))
