export { KindFactList } from './kindFactsView'
export { readAddress, readLine, readTag, readUnit } from './readers'
export { SidePanel } from './sidePanel'
