export { against, againstPart, problemsIn } from './against'
export { useSchemaForm } from './useSchemaForm'
