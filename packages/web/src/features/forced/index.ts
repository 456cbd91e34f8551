export { ForcedValues } from './forcedValues'
