import { broadcastAddress } from './broadcastAddress'
import { duplicate } from './duplicate'
import { gatewayIsSelf } from './gatewayIsSelf'
import { gatewayMissing } from './gatewayMissing'
import { gatewayOutside } from './gatewayOutside'
import { insideDhcp } from './insideDhcp'
import { insideReserved } from './insideReserved'
import { isGateway } from './isGateway'
import { laptopClash } from './laptopClash'
import { linkLocal } from './linkLocal'
import { macTwice } from './macTwice'
import { maskDiffers } from './maskDiffers'
import { networkAddress } from './networkAddress'
import { networkGateway } from './networkGateway'
import { networkRanges } from './networkRanges'
import { networkUnsaid } from './networkUnsaid'
import { networksOverlap } from './networksOverlap'
import { notForDevices } from './notForDevices'
import { outsideNetwork } from './outsideNetwork'
import { publicByMistake } from './publicByMistake'
import type { NetworkRule, PortRule } from './subject'

/** What is looked for at every port that has an address. */
export const portRules: readonly PortRule[] = [
  networkUnsaid,
  duplicate,
  isGateway,
  networkAddress,
  broadcastAddress,
  outsideNetwork,
  publicByMistake,
  linkLocal,
  notForDevices,
  insideDhcp,
  insideReserved,
  maskDiffers,
  gatewayIsSelf,
  gatewayOutside,
  gatewayMissing,
  laptopClash,
]

/** What is looked for at every network. */
export const networkRules: readonly NetworkRule[] = [networksOverlap, networkGateway, networkRanges]

export { aboutNetwork, aboutPort } from './subject'
export { macTwice }
