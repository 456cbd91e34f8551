export * from './live'
export { foundText, pathText, problemsOf, type Problem, type ProblemBody } from './problem'
export * from './requests'
export type {
  DeviceFields,
  ForcedFields,
  HandshakeFields,
  NetworkFields,
  Patch,
  PointFields,
  PortFields,
  TermFields,
} from './rows'
