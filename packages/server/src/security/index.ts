export { gate, localName, openSession, passcodeKey, ROLES, whoAsks } from './gate'
export { hashPasscode, PASSCODE_MIN, passcodeFits } from './passcode'
export { isSameOrigin, sameOrigin } from './sameOrigin'
export { Sessions, type Role } from './sessions'
