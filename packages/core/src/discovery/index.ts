export {
  addressText,
  CONTEXT_BYTES,
  contextOf,
  IDENTITY_PORT,
  identityWords,
  isListIdentityRequest,
  listIdentityReply,
  listIdentityRequest,
  readListIdentityReply,
  serialText,
  type EncapsulatedIdentity,
} from './encapsulation'
export {
  ASK_EVERY_SECONDS,
  heardBy,
  hitsOf,
  judgeHit,
  LISTEN_SECONDS,
  reaches,
  type Candidate,
  type HeardBy,
  type Hit,
  type JudgedHit,
  type Reach,
  type Sighting,
} from './hits'
export { LEASE_PORT, leaseDiscover, readLeaseRequest, type LeaseRequest } from './lease'
export { takenInto, takeable, type Taken } from './take'
export { nameQuestions, NAMES_PORT, namesOf, type NameRecord, type NameSeen } from './names'
