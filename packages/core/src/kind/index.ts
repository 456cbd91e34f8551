export {
  deviceRoles,
  type DescribedBy,
  type DeviceKindFacts,
  type DeviceRole,
  type LampMeaning,
  type ModuleImage,
  type Socket,
  type TypicalPoint,
  type UsualQuantity,
} from './kind'
export { isKnownKind, kindFacts, kindsOf, type OwnKind } from './kinds'
export { lampWords, type LampPattern } from './lamp'
export { restartRules, type RestartRule } from './restartRules'
export { shippedKinds } from './shipped'
export { outOfReach, waysOfSetting, type WayOfSetting } from './waysOfSetting'
