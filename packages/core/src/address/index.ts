export { checkPlan } from './checkPlan'
export { freeAddresses, freeAddressNear, freeCount, type Taken } from './free'
export { likelyIntended } from './intended'
export { formatIpv4, ipv4, ipv4FromBits, ipv4FromOctets, octetsOf, parseIpv4, type Ipv4 } from './ipv4'
export { laptopAddresses, type InterfaceEntry } from './laptop'
export type { LaptopAddress, Plan, PlannedNetwork, PlannedPort } from './plan'
export { indexPlan, type PlanIndex } from './planIndex'
export { formatMask, maskOf, parseMask, prefixLength, type PrefixLength } from './prefix'
export {
  formatRange,
  formatRanges,
  inRange,
  joinRanges,
  parseRange,
  parseRanges,
  rangesOverlap,
  rangeSize,
  type AddressRange,
} from './range'
export { sendingTo, whoCanTalk, type EndOnNetwork, type Sending, type Talk } from './reach'
export { macTwice, networkRules, portRules } from './rules'
export { describeBlock, isPrivate, isPublic, specialBlockOf, specialBlocks, type SpecialBlock } from './special'
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
