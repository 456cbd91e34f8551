export { BenchPage } from './benchPage'
