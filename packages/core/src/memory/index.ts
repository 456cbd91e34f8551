export { cellsText, isPlaced, type Memory, type MemoryBlock, type Partition, type Placed } from './blocks'
export { checkMemory, type MemoryFinding, type MemoryFindingKind } from './check'
export { placeBlocks, type Placing, type PlacingRules } from './place'
