export { csvCell, csvText } from './csv'
