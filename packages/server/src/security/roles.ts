import type { Request } from 'express'
import { Refused } from '../store'

/**
 * What only a lead may do. Everything else that changes something a technician may do too; a viewer looks.
 * See docs/roles.md.
 */
export const leadOnly = {
  passcodes: 'sets passcodes',
  jobs: 'removes jobs and brings them back',
  networks: 'changes networks',
  findings: 'lets findings stand',
  'sign-off': 'signs off',
  evidence: 'takes over what came with a file',
} as const

/** @throws Refused 403 unless a lead asks */
export function requireLead(request: Request, what: keyof typeof leadOnly): void {
  if (request.who.role === 'lead') return
  throw new Refused(403, [
    { what: `Only a lead ${leadOnly[what]}.`, where: 'role', expected: 'lead', found: request.who.role },
  ])
}
