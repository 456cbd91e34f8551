export { askOnPlan } from './askOnPlan'
