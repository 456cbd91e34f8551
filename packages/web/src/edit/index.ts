export { useUndoKeys } from './undoKeys'
export { useEdit, type JobEdit, type NamedRow } from './useEdit'
