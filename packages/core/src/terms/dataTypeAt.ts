import type { DataType } from '../values'
import { dataTypeTerm } from './dataTypeTerm'
import type { End, HandshakeTerms } from './term'

/** The data type that an end says, as far as it can be read. */
export function dataTypeAt(terms: HandshakeTerms, end: End): DataType | undefined {
  const entry = terms['data-type']?.[end]
  const read = entry ? dataTypeTerm.parse(entry) : undefined
  return read?.ok ? read.value : undefined
}
