export { kitOf, PASSWORD_HOLDER, passwordsOf, type KitItem, type Password } from './kitOf'
export { kitParts, kitRules, type KitPart } from './rules'
