export {
  hexText,
  printed,
  readHex,
  readWord,
  signedWord,
  wordsOfBytes,
  type PackedWords,
  type PadAt,
  type WordEntry,
} from './bytes'
export { checksums, crcOf, type Checksum, type ChecksumId, type CrcParameters } from './checksums'
export { readLayout } from './readLayout'
export { judgePoll, sharedPorts, type CommandPoll, type PollVerdict } from './exchange'
export {
  fitsOf,
  splitAnswer,
  type AnswerLayout,
  type FieldLayout,
  type FitsOfLength,
  type SplitAnswer,
  type SplitField,
} from './layout'
