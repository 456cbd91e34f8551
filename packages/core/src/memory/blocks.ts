/** Words of a memory that one command fills from a device, or sends to one. */
export interface MemoryBlock {
  readonly id: string
  readonly name: string
  /** `fill`: read from a device into the memory. `send`: written from the memory to a device. `status`: errors and states. */
  readonly use: 'fill' | 'send' | 'status'
  /** First cell; `undefined` where it is still to be placed. */
  readonly first: number | undefined
  readonly count: number
}

/** A stretch of the memory: what a controller reads, or what it writes. Cells count from 0. */
export interface Partition {
  readonly first: number
  readonly count: number
}

/** The memory of a gateway or of a module beside a controller. */
export interface Memory {
  /** What the controller takes: what devices fill and all status words have to lie here. */
  readonly read: Partition
  /** What the controller gives. What is sent may lie here, or be a link to what was filled. */
  readonly write: Partition
  readonly blocks: readonly MemoryBlock[]
}

export type Placed = MemoryBlock & { readonly first: number }
export const isPlaced = (block: MemoryBlock): block is Placed => block.first !== undefined

/** Cells that two blocks share; `undefined` where they share none. */
export function shared(a: Placed, b: Placed): Partition | undefined {
  const first = Math.max(a.first, b.first)
  const end = Math.min(a.first + a.count, b.first + b.count)
  return end > first ? { first, count: end - first } : undefined
}

export const cellsText = ({ first, count }: Partition): string =>
  count === 1 ? `cell ${first}` : `cells ${first} to ${first + count - 1}`

export const liesIn = (block: Placed, { first, count }: Partition): boolean =>
  block.first >= first && block.first + block.count <= first + count
