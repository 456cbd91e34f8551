export { useFindings } from './useFindings'
