import { tableOfFunction, tables, type Table } from '../modbus'
import { functionCodeTerm, type ReadFunction } from './functionCodeTerm'
import type { End, HandshakeTerms } from './term'

/** The end across. */
export const otherEnd: Readonly<Record<End, End>> = { controller: 'device', device: 'controller' }

/** The function code that an end uses; what the other end says where this one is silent. */
export function functionAt(terms: HandshakeTerms, end: End): ReadFunction | undefined {
  for (const each of [end, otherEnd[end]]) {
    const entry = terms['function-code']?.[each]
    const read = entry ? functionCodeTerm.parse(entry) : undefined
    if (read?.ok) return read.value
  }
  return undefined
}

/** The table that an end means by its function code; `undefined` while none is known: no table is made up. */
export function tableAt(terms: HandshakeTerms, end: End): Table | undefined {
  const code = functionAt(terms, end)
  return code === undefined ? undefined : tableOfFunction(code)
}

/** Whether an end reads single bits: coils or discrete inputs. */
export function readsBits(terms: HandshakeTerms, end: End): boolean {
  const table = tableAt(terms, end)
  return table !== undefined && tables[table].bits === 1
}
