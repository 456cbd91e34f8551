export { against, againstLater, againstPart, problemsIn } from './against'
export { useSchemaForm } from './useSchemaForm'
