export { forbiddenOf, readForbidden } from './forbidden'
export { packReads } from './pack'
export type { Forbidden, PackedRequest, Packing, PackingRules, RequestCost, Wanted } from './wanted'
