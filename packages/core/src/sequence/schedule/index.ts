export { precedenceOf, type Wait } from './precedence'
export { type Schedule, scheduleOf, type Task } from './schedule'
