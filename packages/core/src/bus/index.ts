export { busRules, checkBus, freeNodes, type Bus, type NodeHolder } from './checkBus'
export { nodeFamilies, nodeFamily } from './family'
export { describeNode, formatNode, parseNode, type BusNode } from './node'
