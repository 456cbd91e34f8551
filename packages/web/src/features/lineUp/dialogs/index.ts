export { type Dialogs, LineUpDialogs, useDialogs } from './lineUpDialogs'
