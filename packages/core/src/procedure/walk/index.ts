export { actionKey, laptopHost } from './keys'
export { isSettled, placeOf, runOfDevice, runsOf, type Stop, type WalkStep } from './model'
export type { StepInMenu } from './menuStep'
export { walkOf } from './walkOf'
