export { against, againstPart, problemsIn } from './against'
export { useSchemaForm, type SchemaForm } from './useSchemaForm'
