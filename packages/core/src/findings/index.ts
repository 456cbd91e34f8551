export { byMatter } from './byMatter'
export { PLAN_ONLY, severities, type Edit, type Finding, type Fix, type Severity, type Subject } from './finding'
export { bySeverity } from './order'
export { applyRule, type Rule } from './rule'
