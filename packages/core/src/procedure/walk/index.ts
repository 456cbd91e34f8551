export { actionKey, laptopHost } from './keys'
export { isSettled, runOfDevice, runsOf, type Stop, type WalkStep } from './model'
export { walkOf } from './walkOf'
