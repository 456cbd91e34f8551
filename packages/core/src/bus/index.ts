export { busRules, checkBus, freeNodes, type Bus, type HolderOnBus, type NodeHolder } from './checkBus'
export { nodeFamilies, nodeFamily, type NodeFamily } from './family'
export { describeNode, formatNode, parseNode, rangeText, type BusNode } from './node'
