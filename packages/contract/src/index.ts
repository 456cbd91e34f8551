export * from './live'
export { foundText, pathText, problemsOf, type Problem, type ProblemBody } from './problem'
export { textProblems } from './plain'
export { AT_ONCE, newLine, readChangeList, type ChangeList } from './changes'
export * from './requests'
export type {
  DeviceFields,
  ForcedFields,
  HandshakeFields,
  LineFields,
  NetworkFields,
  NodeFields,
  Patch,
  PointFields,
  PortFields,
  TermFields,
} from './rows'
export type { SheetReading, WorkbookReading } from './workbook'
