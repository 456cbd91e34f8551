import type { DeviceKindFacts } from '../kind'
import { controllers } from './controllers'
import { drives } from './drives'
import { fieldDevices } from './fieldDevices'
import { gateways } from './gateways'
import { inputsAndOutputs } from './inputsAndOutputs'
import { meters } from './meters'
import { powerSupplies } from './powerSupplies'
import { supervision } from './supervision'

/**
 * The kinds that ship. Generic, without makers: what many devices of a kind have in common, to begin a plan with.
 * @source common practice, no source; times and addresses are made up within what is usual
 */
export const shippedKinds: readonly DeviceKindFacts[] = [
  ...controllers,
  ...drives,
  ...inputsAndOutputs,
  ...gateways,
  ...fieldDevices,
  ...meters,
  ...powerSupplies,
  ...supervision,
]
