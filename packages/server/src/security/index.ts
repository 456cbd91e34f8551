export { gate, localName, openSession, passcodeKey, ROLES } from './gate'
export { hashPasscode, PASSCODE_MIN, passcodeFits } from './passcode'
export { sameOrigin } from './sameOrigin'
export { Sessions, type Role } from './sessions'
