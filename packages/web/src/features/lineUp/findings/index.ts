export { FindingView } from './findingView'
export { FindingsView } from './findingsView'
