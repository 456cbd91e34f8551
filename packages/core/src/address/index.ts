export { checkPlan } from './checkPlan'
export { freeAddresses, freeCount, type Taken } from './free'
export { formatIpv4, ipv4, ipv4FromBits, octetsOf, parseIpv4, type Ipv4 } from './ipv4'
export { laptopAddresses } from './laptop'
export type { LaptopAddress, Plan, PlannedNetwork, PlannedPort } from './plan'
export { indexPlan, type PlanIndex } from './planIndex'
export { formatMask, maskOf, parseMask, prefixLength, type PrefixLength } from './prefix'
export { inRange, parseRanges, rangeSize, type AddressRange } from './range'
export { whoCanTalk } from './reach'
export { macTwice, networkRules, portRules } from './rules'
export { specialBlockOf } from './special'
export {
  blockOf,
  contains,
  formatSubnet,
  hostCount,
  hostsOf,
  lastAddress,
  parseSubnet,
  placeIn,
  subnetOf,
  subnetsOverlap,
  type Subnet,
} from './subnet'
