export { MenuDrive, MENU_QUIET_MS, MENU_SILENT_MS, type MenuMove } from './drive'
export {
  menuValues,
  taskOf,
  wakeKeys,
  type MenuAnswer,
  type MenuFacts,
  type MenuReading,
  type MenuTask,
  type MenuValue,
} from './menu'
export { OwnLines, readingsIn, type ReadValue } from './readings'
