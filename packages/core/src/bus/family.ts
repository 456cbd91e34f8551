/** How nodes of one kind of bus are numbered. A new family is one more entry. */
export interface NodeFamily {
  readonly id: string
  readonly name: string
  readonly base: 8 | 10
  /** Lowest and highest node, as numbers. */
  readonly first: number
  readonly last: number
  /** How many digits are shown; octal nodes are written with both. */
  readonly digits: number
  /** Nodes in the range that are not for devices, with what they are for. */
  readonly kept: readonly { readonly node: number; readonly use: string }[]
  readonly source: string
}

/** @source named beside each; where none is named: common practice, no source */
export const nodeFamilies: readonly NodeFamily[] = [
  {
    id: 'decimal-0-125',
    name: 'Nodes 0 to 125',
    base: 10,
    first: 0,
    last: 125,
    digits: 1,
    kept: [],
    source: 'IEC 61158 type 3: stations 0 to 125; 126 is the address as delivered, 127 broadcast',
  },
  {
    id: 'decimal-0-63',
    name: 'Nodes 0 to 63',
    base: 10,
    first: 0,
    last: 63,
    digits: 1,
    kept: [],
    source: 'IEC 62026-3: MAC id 0 to 63',
  },
  {
    id: 'decimal-1-127',
    name: 'Nodes 1 to 127',
    base: 10,
    first: 1,
    last: 127,
    digits: 1,
    kept: [],
    source: 'CiA 301: node id 1 to 127 (from memory)',
  },
  {
    id: 'decimal-1-64',
    name: 'Nodes 1 to 64',
    base: 10,
    first: 1,
    last: 64,
    digits: 1,
    kept: [],
    source: 'common practice, no source',
  },
  {
    id: 'decimal-1-247',
    name: 'Units 1 to 247',
    base: 10,
    first: 1,
    last: 247,
    digits: 1,
    kept: [],
    source: 'Modbus over Serial Line V1.02, 2.2: 0 is broadcast, 248 to 255 are reserved',
  },
  {
    id: 'octal-0-77',
    name: 'Nodes 0 to 77, octal',
    base: 8,
    first: 0,
    last: 63,
    digits: 2,
    kept: [],
    source: 'common practice, no source: 64 nodes, 77 octal is 63',
  },
]

/** @throws RangeError for an id that is no family */
export function nodeFamily(id: string): NodeFamily {
  const found = nodeFamilies.find((family) => family.id === id)
  if (!found) throw new RangeError(`No such family of nodes: ${id}`)
  return found
}
