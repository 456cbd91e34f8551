export {
  KIND_FORMAT,
  KIND_FORMAT_VERSION,
  kindFileOf,
  readKindFile,
  type KindFile,
  type KindFileReading,
} from './kindFile'
